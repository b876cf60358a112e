import { useId, type ReactNode } from 'react'
import type { Choices } from '../api/client'
import { FieldError } from '../ui/field-error'
import { Input, TextArea } from '../ui/input'
import { Select } from '../ui/select'

/** What the form of a shop holds; the same for the first run and for later. */
export interface StoreDraft {
  name: string
  country: string
  currency: string
  time_zone: string
  weight_unit: string
  length_unit: string
  prices_include_tax: boolean
  method_order: string
  street: string
  postcode: string
  ship_from_country: string
}

/** The draft as the contract's StoreDraft. */
export function storeBody(draft: StoreDraft) {
  const { street, postcode, ship_from_country: country, ...fields } = draft
  const lines = street
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
  return {
    ...fields,
    ship_from: { country: country || fields.country || null, postcode: postcode.trim() || null, lines },
  }
}

interface Props {
  draft: StoreDraft
  set: (changes: Partial<StoreDraft>) => void
  choices: Choices
  errorAt: (pointer: string) => string | undefined
}

export function StoreFields({ draft, set, choices, errorAt }: Props) {
  const chooseCountry = (code: string) => {
    const country = choices.countries.find((candidate) => candidate.code === code)
    set({
      country: code,
      ...(country?.currency ? { currency: country.currency } : {}),
      ...(country?.time_zone ? { time_zone: country.time_zone } : {}),
      ship_from_country: code,
    })
  }
  return (
    <div className="grid max-w-2xl gap-x-6 gap-y-4 sm:grid-cols-2">
      <Labelled label="Shop name" error={errorAt('/name')} wide>
        {(props) => (
          <Input {...props} value={draft.name} onChange={(event) => set({ name: event.target.value })} />
        )}
      </Labelled>
      <Labelled label="Country" error={errorAt('/country')}>
        {(props) => (
          <Select
            label="Country"
            {...props}
            value={draft.country}
            choices={[['', 'Choose'], ...choices.countries.map(({ code, name }) => [code, name] as const)]}
            choose={(value) => chooseCountry(value)}
          />
        )}
      </Labelled>
      <Labelled label="Currency" error={errorAt('/currency')}>
        {(props) => (
          <Select
            label="Currency"
            {...props}
            value={draft.currency}
            choices={[['', 'Choose'], ...choices.currencies.map(({ code }) => [code, code] as const)]}
            choose={(value) => set({ currency: value })}
          />
        )}
      </Labelled>
      <Labelled label="Ship-from street" error={errorAt('/ship_from/lines')}>
        {(props) => (
          <TextArea
            {...props}
            rows={2}
            value={draft.street}
            onChange={(event) => set({ street: event.target.value })}
          />
        )}
      </Labelled>
      <Labelled label="Ship-from postcode" error={errorAt('/ship_from/postcode')}>
        {(props) => (
          <Input
            {...props}
            maxLength={20}
            value={draft.postcode}
            onChange={(event) => set({ postcode: event.target.value })}
          />
        )}
      </Labelled>
      <Labelled label="Time zone" error={errorAt('/time_zone')}>
        {(props) => (
          <Select
            label="Time zone"
            {...props}
            value={draft.time_zone}
            choices={[
              ['', 'Choose'],
              ...[...new Set([draft.time_zone, ...choices.time_zones])]
                .filter(Boolean)
                .map((zone) => [zone, zone] as const),
            ]}
            choose={(value) => set({ time_zone: value })}
          />
        )}
      </Labelled>
      <div className="grid grid-cols-2 gap-3">
        <Labelled label="Weight unit" error={errorAt('/weight_unit')}>
          {(props) => (
            <Select
              label="Weight unit"
              {...props}
              value={draft.weight_unit}
              choices={[...choices.weight_units.map((unit) => [unit, unit] as const)]}
              choose={(value) => set({ weight_unit: value })}
            />
          )}
        </Labelled>
        <Labelled label="Length unit" error={errorAt('/length_unit')}>
          {(props) => (
            <Select
              label="Length unit"
              {...props}
              value={draft.length_unit}
              choices={[...choices.length_units.map((unit) => [unit, unit] as const)]}
              choose={(value) => set({ length_unit: value })}
            />
          )}
        </Labelled>
      </div>
      <Labelled label="Product prices" error={errorAt('/prices_include_tax')}>
        {(props) => (
          <Select
            label="Product prices"
            {...props}
            value={String(draft.prices_include_tax)}
            choices={[
              ['true', 'Include tax'],
              ['false', 'Exclude tax'],
            ]}
            choose={(value) => set({ prices_include_tax: value === 'true' })}
          />
        )}
      </Labelled>
      <Labelled label="Order of methods at checkout" error={errorAt('/method_order')}>
        {(props) => (
          <Select
            label="Order of methods at checkout"
            {...props}
            value={draft.method_order}
            choices={[
              ['price', 'Cheapest first'],
              ['merchant', 'As on the Board'],
            ]}
            choose={(value) => set({ method_order: value })}
          />
        )}
      </Labelled>
    </div>
  )
}

interface InputProps {
  id: string
  className: string
  'aria-invalid': true | undefined
  'aria-describedby': string | undefined
}

interface LabelledProps {
  label: string
  error: string | undefined
  wide?: boolean
  children: (props: InputProps) => ReactNode
}

function Labelled({ label, error, wide, children }: LabelledProps) {
  const id = useId()
  return (
    <div className={`flex flex-col gap-1 ${wide ? 'sm:col-span-2' : ''}`}>
      <label htmlFor={id} className="font-cond text-soft">
        {label}
      </label>
      {children({
        id,
        className: 'w-full',
        'aria-invalid': error ? true : undefined,
        'aria-describedby': error ? `${id}-error` : undefined,
      })}
      {error && <FieldError id={`${id}-error`}>{error}</FieldError>}
    </div>
  )
}
