import { withOnly } from '../api/shapes'
import type { Schemas } from '../api/client'
import { FieldError } from '../ui/field-error'
import { Select } from '../ui/select'
import { Input } from '../ui/input'

const SIDES = ['length', 'width', 'height'] as const
const NO_SIZE = { length: '', width: '', height: '' }
const SIZES = ['size', 'unit_size'].flatMap((field) =>
  ['', ...SIDES.map((side) => `/${side}`)].map((at) => `/${field}${at}`),
)

/** A policy as it is sent: what is empty is left out. */
export function tidyParcels(parcels: Schemas['Parcels']): Schemas['Parcels'] {
  const sides = Object.values(parcels.unit_size ?? {}).some(Boolean)
  return withOnly(parcels, (value, field) => value !== '' && (field !== 'unit_size' || sides))
}

function withoutBlanks(parcels: Parameters<typeof withOnly<Schemas['Parcels']>>[0]): Schemas['Parcels'] {
  return withOnly(parcels, (value) => value !== undefined)
}

/** How goods become parcels here, where it is not as the shop says. */
export function Parcels({
  parcels: shown,
  change,
  commit,
  errorAt,
  own = false,
}: {
  parcels: Schemas['Parcels'] | undefined
  change: (parcels: Schemas['Parcels'] | undefined) => void
  commit: () => void
  errorAt: (pointer: string) => string | undefined
  /** The shop's own policy: there is always one. */
  own?: boolean
}) {
  const set = (fields: Partial<Schemas['Parcels']>) => shown && change({ ...shown, ...fields })
  const put = (parcels: Schemas['Parcels'] | undefined) => {
    change(parcels)
    commit()
  }
  // Nobody is told of the second side while typing the first.
  const half = [shown?.size, shown?.unit_size].some(
    (size) => size && [1, 2].includes(Object.values(size).filter(Boolean).length),
  )
  const keep = () => {
    if (!half) commit()
  }
  const figure = (field: 'up_to' | 'tare' | 'divisor' | 'unit_weight', words: string, hint: string) => (
    <label className="flex flex-col font-cond text-soft">
      {words}
      <Input
        className="w-24 font-sans"
        placeholder={hint}
        aria-invalid={errorAt(`/parcels/${field}`) ? true : undefined}
        value={shown?.[field] ?? ''}
        onChange={(event) => set({ [field]: event.target.value })}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
    </label>
  )
  const sides = (field: 'size' | 'unit_size', label = '') =>
    SIDES.map((side) => (
      <label key={side} className="flex flex-col font-cond text-soft">
        {!label && side}
        <Input
          className="w-20 font-sans"
          aria-label={label ? `${label}: ${side}` : undefined}
          placeholder={label && side}
          aria-invalid={errorAt(`/parcels/${field}/${side}`) ? true : undefined}
          value={shown?.[field]?.[side] ?? ''}
          onChange={(event) =>
            set({ [field]: { ...NO_SIZE, ...shown?.[field], [side]: event.target.value } })
          }
          onBlur={keep}
          onKeyDown={(event) => event.key === 'Enter' && keep()}
        />
      </label>
    ))
  const problem = ['', '/up_to', '/tare', '/divisor', '/unit_weight', ...SIZES]
    .map((at) => errorAt(`/parcels${at}`))
    .find(Boolean)
  return (
    <span className="flex flex-wrap items-end gap-3">
      <label className="flex flex-col font-cond text-soft">
        Parcels
        <Select
          label="Parcels"
          value={shown?.kind ?? ''}
          choices={[
            !own && ['', 'as the shop’s'],
            ['one', 'all in one'],
            ['unit', 'one for each unit'],
            ['fixed', 'one of a fixed size'],
            ['boxes', 'packed into boxes'],
          ]}
          choose={(kind) => {
            if (!kind) return put(undefined)
            const size =
              kind === 'fixed' ? { size: { length: '30 cm', width: '20 cm', height: '15 cm' } } : {}
            const { divisor, per, unit_weight, unit_size } = shown ?? {}
            put(withoutBlanks({ kind, divisor, per, unit_weight, unit_size, ...size }))
          }}
        />
      </label>
      {shown?.kind === 'one' && figure('up_to', 'up to', 'any weight')}
      {shown?.kind === 'fixed' && (
        <>
          {sides('size')}
          {figure('tare', 'packing weighs', 'nothing')}
        </>
      )}
      {shown && figure('divisor', 'volumetric divisor', 'none')}
      {shown?.divisor && (
        <Select
          label="Divisor in"
          value={shown.per ?? 'kg'}
          choices={[
            ['kg', 'cm³ for a kg'],
            ['lb', 'in³ for a lb'],
          ]}
          choose={(value) => put({ ...shown, per: value })}
        />
      )}
      {shown && (
        <span className="flex w-full flex-wrap items-end gap-x-6 gap-y-2">
          {figure('unit_weight', 'Without a weight, one counts as', 'not said')}
          <span className="font-cond text-soft">
            Without a size, one counts as
            <span className="flex gap-1">{sides('unit_size', 'Size of goods without one')}</span>
          </span>
        </span>
      )}
      {half && <span className="w-full text-xs text-soft">Length, width and height belong together.</span>}
      {problem && <FieldError>{problem}</FieldError>}
    </span>
  )
}
