import { useId, type ReactNode } from 'react'
import type { Choices } from '../api/client'
import { FieldError } from '../ui/field'

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
      <Labelled label="Name of the shop" error={errorAt('/name')} wide>
        {(props) => (
          <input {...props} value={draft.name} onChange={(event) => set({ name: event.target.value })} />
        )}
      </Labelled>
      <Labelled label="Country" error={errorAt('/country')}>
        {(props) => (
          <select {...props} value={draft.country} onChange={(event) => chooseCountry(event.target.value)}>
            <option value="">choose</option>
            {choices.countries.map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </select>
        )}
      </Labelled>
      <Labelled label="Currency" error={errorAt('/currency')}>
        {(props) => (
          <select
            {...props}
            value={draft.currency}
            onChange={(event) => set({ currency: event.target.value })}
          >
            <option value="">choose</option>
            {choices.currencies.map(({ code }) => (
              <option key={code}>{code}</option>
            ))}
          </select>
        )}
      </Labelled>
      <Labelled label="Ships from: street" error={errorAt('/ship_from/lines')}>
        {(props) => (
          <textarea
            {...props}
            rows={2}
            value={draft.street}
            onChange={(event) => set({ street: event.target.value })}
          />
        )}
      </Labelled>
      <Labelled label="Ships from: postcode" error={errorAt('/ship_from/postcode')}>
        {(props) => (
          <input
            {...props}
            maxLength={20}
            value={draft.postcode}
            onChange={(event) => set({ postcode: event.target.value })}
          />
        )}
      </Labelled>
      <Labelled label="Time zone" error={errorAt('/time_zone')}>
        {(props) => (
          <select
            {...props}
            value={draft.time_zone}
            onChange={(event) => set({ time_zone: event.target.value })}
          >
            <option value="">choose</option>
            {[...new Set([draft.time_zone, ...choices.time_zones])].filter(Boolean).map((zone) => (
              <option key={zone}>{zone}</option>
            ))}
          </select>
        )}
      </Labelled>
      <div className="grid grid-cols-2 gap-3">
        <Labelled label="Weights in" error={errorAt('/weight_unit')}>
          {(props) => (
            <select
              {...props}
              value={draft.weight_unit}
              onChange={(event) => set({ weight_unit: event.target.value })}
            >
              {choices.weight_units.map((unit) => (
                <option key={unit}>{unit}</option>
              ))}
            </select>
          )}
        </Labelled>
        <Labelled label="Lengths in" error={errorAt('/length_unit')}>
          {(props) => (
            <select
              {...props}
              value={draft.length_unit}
              onChange={(event) => set({ length_unit: event.target.value })}
            >
              {choices.length_units.map((unit) => (
                <option key={unit}>{unit}</option>
              ))}
            </select>
          )}
        </Labelled>
      </div>
      <Labelled label="The prices of the goods" error={errorAt('/prices_include_tax')}>
        {(props) => (
          <select
            {...props}
            value={String(draft.prices_include_tax)}
            onChange={(event) => set({ prices_include_tax: event.target.value === 'true' })}
          >
            <option value="true">include tax</option>
            <option value="false">come without tax</option>
          </select>
        )}
      </Labelled>
      <Labelled label="The checkout lists methods" error={errorAt('/method_order')}>
        {(props) => (
          <select
            {...props}
            value={draft.method_order}
            onChange={(event) => set({ method_order: event.target.value })}
          >
            <option value="price">by price, the cheapest first</option>
            <option value="merchant">in the order on the Board</option>
          </select>
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
        className: 'field w-full',
        'aria-invalid': error ? true : undefined,
        'aria-describedby': error ? `${id}-error` : undefined,
      })}
      {error && <FieldError id={`${id}-error`}>{error}</FieldError>}
    </div>
  )
}
