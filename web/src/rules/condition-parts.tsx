import type { ComponentProps } from 'react'
import type { Condition } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useChoices, useGeography } from '../setup/queries'
import { Texts } from '../offers/goods-choice'
import { BasisChoice } from '../plans/basis-choice'
import { Many } from '../ui/choose'
import { FieldError } from '../ui/field-error'
import { weekdayName } from '../ui/moment'
import { Select } from '../ui/select'
import { Typed } from '../ui/typed'
import { PostcodeDoubts } from '../zones/clause-doubts'
import { FACTS, type ConditionOn, type Measured } from '../words/rules'

export interface Props {
  condition: Condition
  change: (condition: Condition) => void
  put: (condition: Condition) => void
  commit: () => void
  errorAt: (below: string) => string | undefined
  remove: () => void
}

/** What says something about a fact is given all that it may need. `send` stores what is whole, and only shows the rest. */
export interface Saying<C extends Condition> extends Omit<Props, 'condition' | 'remove'> {
  condition: C
  send: (condition: Condition) => void
}

export function Fault({ of: { errorAt } }: { of: Pick<Props, 'errorAt'> }) {
  const error = errorAt('/of')
  return error ? <FieldError>{error}</FieldError> : null
}

export function Lines({
  condition,
  send,
}: Pick<Saying<ConditionOn<'class' | 'tag' | 'product' | 'hazard'>>, 'condition' | 'send'>) {
  return (
    <Select
      label="Any line or every line"
      value={condition.lines ?? 'any'}
      choices={[
        ['any', 'some line of the cart'],
        ['every', 'every line that ships'],
      ]}
      choose={(lines) => send({ ...condition, lines })}
    />
  )
}

export function WhichAddress({
  condition,
  send,
}: Pick<Saying<ConditionOn<'country' | 'region' | 'postcode' | 'po_box'>>, 'condition' | 'send'>) {
  return (
    <Select
      label="Which address"
      value={condition.address ?? 'delivery'}
      choices={[
        ['delivery', 'delivery address'],
        ['billing', 'billing address'],
      ]}
      choose={(address) => send({ ...condition, address })}
    />
  )
}

const SIDES = {
  low: [
    ['from', 'at least'],
    ['over', 'more than'],
  ],
  high: [
    ['up_to', 'at most'],
    ['below', 'less than'],
  ],
} as const

export function Bounds({ condition, change, put, commit, errorAt }: Saying<ConditionOn<Measured>>) {
  const { setup } = useWorkshop()
  const unit = FACTS[condition.fact].unit?.(setup.store)
  const side = (name: 'low' | 'high') => {
    const keys = SIDES[name]
    const key = keys.find(([bound]) => condition[bound] !== undefined)?.[0] ?? keys[0][0]
    const text = condition[key] ?? ''
    const rest = { ...condition }
    for (const [bound] of keys) delete rest[bound]
    return (
      <span className="flex items-start gap-1" key={name}>
        <Select
          label={name === 'low' ? 'Lower bound' : 'Upper bound'}
          value={key}
          choices={keys}
          choose={(bound) => (text ? put : change)({ ...rest, [bound]: text })}
        />
        <Typed
          label={keys.find(([bound]) => bound === key)![1]}
          hideLabel
          width="w-20"
          inputMode="decimal"
          placeholder={name === 'low' ? '' : 'open'}
          value={text}
          error={errorAt(`/${key}`) ?? (name === 'low' && key !== 'from' ? errorAt('/from') : undefined)}
          change={(typed) => change({ ...rest, [key]: typed })}
          commit={commit}
        />
      </span>
    )
  }
  return (
    <>
      {side('low')}
      {side('high')}
      <span className="pt-1.5 text-soft">{unit}</span>
      {condition.fact === 'value' && (
        <BasisChoice
          basis={condition.basis}
          put={(basis) => {
            const { basis: _, ...rest } = condition
            put(basis ? { ...rest, basis } : rest)
          }}
        />
      )}
    </>
  )
}

export function ClockField({ label, ...field }: Omit<ComponentProps<typeof Typed>, 'hideLabel' | 'width'>) {
  return (
    <span className="flex items-start gap-1">
      <span className="pt-1.5 text-soft">{label}</span>
      <Typed label={label} hideLabel width="w-36" {...field} />
    </span>
  )
}

/** What the shop keeps lists of, and the days of the week. */
export function Listed({
  condition,
  send,
  errorAt,
}: Saying<ConditionOn<'class' | 'zone' | 'group' | 'coupon' | 'weekday'>>) {
  const { setup } = useWorkshop()
  const { fact } = condition
  const list = {
    class: () => setup.classes,
    zone: () => setup.zones,
    group: () => setup.groups,
    coupon: () => setup.coupons.map(({ id, code }) => ({ id, name: code })),
    weekday: () => [1, 2, 3, 4, 5, 6, 7].map((day) => ({ id: String(day), name: weekdayName(day) })),
  }[fact]()
  return (
    <span>
      {list.length ? (
        <Many
          list={list}
          chosen={condition.of.map(String)}
          label={FACTS[fact].label}
          put={(ids) => send({ ...condition, of: fact === 'weekday' ? ids.map(Number).sort() : ids })}
        />
      ) : (
        <span className="text-soft">There are none yet.</span>
      )}
      <Fault of={{ errorAt }} />
    </span>
  )
}

export function Places({
  condition,
  send,
  change,
  errorAt,
}: Saying<ConditionOn<'country' | 'region' | 'postcode'>>) {
  const { data: choices } = useChoices()
  const { data: geography } = useGeography()
  const { fact, country = '' } = condition
  const of = condition.of.map(String)
  const put = (of: string[]) => send({ ...condition, of })
  const countries = choices?.countries ?? []
  const asItems = (places: { code: string; name: string }[]) =>
    places.map(({ code, name }) => ({ id: code, name }))
  const regions = geography?.regions[country] ?? []
  return (
    <span className="flex flex-wrap items-start gap-x-2 gap-y-1">
      {fact !== 'country' && (
        <Select
          label="Country"
          className="w-40"
          value={country}
          choices={countries.map(({ code, name }) => [code, name] as const)}
          choose={(code) => change({ ...condition, country: code, of: [] })}
        />
      )}
      {fact === 'country' && <Many list={asItems(countries)} chosen={of} label="Country" put={put} />}
      {fact === 'region' &&
        (regions.length ? (
          <Many list={asItems(regions)} chosen={of} label="Region" put={put} />
        ) : (
          <span className="pt-1.5 text-soft">No regions are known there.</span>
        ))}
      {fact === 'postcode' && (
        <>
          <Texts key={of.join()} label="Postcodes" placeholder="IV, PA20 to PA49" texts={of} put={put} />
          <PostcodeDoubts country={country} of={of} put={put} />
        </>
      )}
      <Fault of={{ errorAt }} />
    </span>
  )
}
