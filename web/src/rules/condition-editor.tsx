import { X } from 'lucide-react'
import type { Condition, Schemas } from '../api/client'
import { useChoices, useGeography, useWorkshop } from '../api/setup'
import { Texts } from '../offers/goods-choice'
import { BasisChoice } from '../plans/basis-choice'
import { Many } from '../ui/choose'
import { FieldError } from '../ui/field'
import { weekdayName } from '../ui/moment'
import { Typed } from '../ui/typed'
import { PostcodeDoubts } from '../zones/clause-doubts'
import { FACTS, type Fact } from './words'
import { Select } from '../ui/select'
import { Button } from '../ui/button'

interface Props {
  condition: Condition
  change: (condition: Condition) => void
  put: (condition: Condition) => void
  commit: () => void
  errorAt: (below: string) => string | undefined
  remove: () => void
}

/** A condition on another fact, as it begins. */
function blank(fact: Fact, home: string): Condition {
  const { kind, alone } = FACTS[fact]
  if (kind === 'measure') return { fact, from: '' }
  if (kind === 'clock') return fact === 'time' ? { fact, from: '', until: '' } : { fact, first: '' }
  return {
    fact,
    ...(fact === 'region' || fact === 'postcode' ? { country: home } : {}),
    ...(alone ? {} : { of: [] }),
    ...(kind === 'goods' ? { lines: 'any' } : {}),
  }
}

const ALL_FACTS = Object.keys(FACTS) as Fact[]

/** Whether a condition says something from the beginning. */
const complete = (condition: Condition) => FACTS[condition.fact].alone ?? false

export function ConditionEditor({ condition, change, put, commit, errorAt, remove }: Props) {
  const { setup } = useWorkshop()
  const home = setup.store!.country!
  const { fact } = condition
  const { kind } = FACTS[fact]
  return (
    <div className="flex flex-wrap items-start gap-x-2 gap-y-1">
      <Select
        label="Fact"
        value={fact}
        choices={ALL_FACTS.map((one) => [one, FACTS[one].label] as const)}
        choose={(value) => {
          const next = blank(value, home)
          if (complete(next)) put(next)
          else change(next)
        }}
      />
      {kind === 'measure' ? (
        <Bounds condition={condition} change={change} put={put} commit={commit} errorAt={errorAt} />
      ) : kind === 'clock' ? (
        <Clock condition={condition} change={change} commit={commit} errorAt={errorAt} />
      ) : (
        <OneOf condition={condition} change={change} put={put} errorAt={errorAt} />
      )}
      {kind === 'goods' && (
        <Select
          label="Any line or every line"
          value={condition.lines ?? 'any'}
          choices={[
            ['any', 'some line of the cart'],
            ['every', 'every line that ships'],
          ]}
          choose={(value) => put({ ...condition, lines: value })}
        />
      )}
      {kind === 'address' && (
        <Select
          label="Which address"
          value={condition.address ?? 'delivery'}
          choices={[
            ['delivery', 'delivery address'],
            ['billing', 'billing address'],
          ]}
          choose={(value) => {
            const next = { ...condition, address: value }
            if (complete(next) || next.of?.length) put(next)
            else change(next)
          }}
        />
      )}
      <Button look="quiet" className="px-1" aria-label="Remove this condition" onClick={remove}>
        <X size={13} aria-hidden />
      </Button>
      {errorAt('/fact') && <FieldError>{errorAt('/fact')}</FieldError>}
    </div>
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
type Bound = 'from' | 'over' | 'up_to' | 'below'

function Bounds({
  condition,
  change,
  put,
  commit,
  errorAt,
}: Pick<Props, 'condition' | 'change' | 'put' | 'commit' | 'errorAt'>) {
  const { setup } = useWorkshop()
  const unit = FACTS[condition.fact].unit?.(setup.store!)
  const side = (name: 'low' | 'high') => {
    const keys = SIDES[name]
    const key = keys.find(([bound]) => condition[bound] !== undefined)?.[0] ?? keys[0][0]
    const rest = Object.fromEntries(
      Object.entries(condition).filter(([field]) => !keys.some(([bound]) => bound === field)),
    ) as Condition
    const set = (bound: Bound, text: string): Condition => ({ ...rest, [bound]: text })
    return (
      <span className="flex items-start gap-1" key={name}>
        <Select
          label={name === 'low' ? 'Lower bound' : 'Upper bound'}
          value={key}
          choices={keys}
          choose={(value) => {
            const text = condition[key] ?? ''
            const next = { ...rest, [value]: text }
            if (text) put(next)
            else change(next)
          }}
        />
        <Typed
          label={keys.find(([bound]) => bound === key)![1]}
          hideLabel
          width="w-20"
          inputMode="decimal"
          placeholder={name === 'low' ? '' : 'open'}
          value={condition[key] ?? ''}
          error={errorAt(`/${key}`) ?? (name === 'low' && key !== 'from' ? errorAt('/from') : undefined)}
          change={(text) => change(set(key, text))}
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

function Clock({
  condition,
  change,
  commit,
  errorAt,
}: Pick<Props, 'condition' | 'change' | 'commit' | 'errorAt'>) {
  const keys =
    condition.fact === 'time'
      ? ([
          ['from', 'from'],
          ['until', 'until just before'],
        ] as const)
      : ([
          ['first', 'from'],
          ['last', 'to the end of'],
        ] as const)
  return keys.map(([key, label]) => (
    <span key={key} className="flex items-start gap-1">
      <span className="pt-1.5 text-soft">{label}</span>
      <Typed
        label={label}
        hideLabel
        type={condition.fact === 'time' ? 'time' : 'date'}
        width="w-36"
        value={condition[key] ?? ''}
        error={errorAt(`/${key}`)}
        change={(text) => {
          const { [key]: _, ...rest } = condition
          change(text || condition.fact === 'time' ? { ...rest, [key]: text } : rest)
        }}
        commit={commit}
      />
    </span>
  ))
}

function OneOf({ condition, change, put, errorAt }: Pick<Props, 'condition' | 'change' | 'put' | 'errorAt'>) {
  const { setup } = useWorkshop()
  const { fact } = condition
  const of = (condition.of ?? []).map(String)
  const send = (values: (string | number)[]) => {
    const next = { ...condition, of: values }
    if (values.length) put(next)
    else change(next)
  }
  const error = errorAt('/of') && <FieldError>{errorAt('/of')}</FieldError>
  const lists: Partial<Record<Fact, { id?: string; name?: string }[]>> = {
    class: setup.classes,
    zone: setup.zones,
    group: setup.groups,
    coupon: setup.coupons.map(({ id, code }) => ({ id, name: code ?? '' })),
    weekday: [1, 2, 3, 4, 5, 6, 7].map((day) => ({ id: String(day), name: weekdayName(day) })),
  }
  const list = lists[fact]
  if (list)
    return (
      <span>
        {list.length ? (
          <Many
            list={list}
            chosen={of}
            label={FACTS[fact].label}
            put={(ids) => send(fact === 'weekday' ? ids.map(Number).sort() : ids)}
          />
        ) : (
          <span className="text-soft">There are none yet.</span>
        )}
        {error}
      </span>
    )
  if (FACTS[fact].alone) return null
  return (
    <>
      {(fact === 'region' || fact === 'postcode') && (
        <CountryChoice
          country={condition.country ?? ''}
          choose={(country) => change({ ...condition, country, of: [] })}
        />
      )}
      {fact === 'country' ? (
        <Countries of={of} put={send} />
      ) : fact === 'region' ? (
        <Regions country={condition.country ?? ''} of={of} put={send} />
      ) : (
        <Texts
          key={of.join()}
          label={fact === 'postcode' ? 'Postcodes' : fact === 'tag' ? 'Tags' : 'SKUs'}
          placeholder={fact === 'postcode' ? 'IV, PA20 to PA49' : 'commas between'}
          texts={of}
          put={send}
        />
      )}
      {fact === 'postcode' && (
        <PostcodeDoubts country={condition.country ?? ''} of={of as string[]} put={send} />
      )}
      {error}
    </>
  )
}

function CountryChoice({ country, choose }: { country: string; choose: (code: string) => void }) {
  const { data } = useChoices()
  return (
    <Select
      label="Country"
      className="w-40"
      value={country}
      choices={(data?.countries ?? []).map(({ code, name }) => [code, name] as const)}
      choose={(value) => choose(value)}
    />
  )
}

function Chosen({
  items,
  of,
  put,
  what,
}: {
  items: { code: string; name: string }[]
  of: string[]
  put: (of: string[]) => void
  what: string
}) {
  return (
    <span className="flex flex-wrap items-center gap-1">
      {of.map((code) => {
        const name = items.find((item) => item.code === code)?.name ?? code
        return (
          <span key={code} className="inline-flex items-center border border-edge bg-white pl-1.5">
            {name}
            <Button
              look="quiet"
              className="px-1"
              aria-label={`Without ${name}`}
              onClick={() => put(of.filter((one) => one !== code))}
            >
              <X size={12} aria-hidden />
            </Button>
          </span>
        )
      })}
      <Select
        label={`Add a ${what}`}
        className="w-36"
        placeholder={of.length ? `another ${what}` : `choose a ${what}`}
        value={''}
        choices={items
          .filter(({ code }) => !of.includes(code))
          .map(({ code, name }) => [code, name] as const)}
        choose={(value) => put([...of, value])}
      />
    </span>
  )
}

function Countries({ of, put }: { of: string[]; put: (of: string[]) => void }) {
  const { data } = useChoices()
  return <Chosen items={data?.countries ?? []} of={of} put={put} what="country" />
}

function Regions({ country, of, put }: { country: string; of: string[]; put: (of: string[]) => void }) {
  const { data } = useGeography()
  const regions: Schemas['Geography']['regions'][string] = data?.regions[country] ?? []
  return regions.length ? (
    <Chosen items={regions} of={of} put={put} what="region" />
  ) : (
    <span className="pt-1.5 text-soft">No regions are known there.</span>
  )
}
