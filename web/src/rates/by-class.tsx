import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { call, type Plan, type Rate, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useTold } from '../board/edits'
import { useBenchResult } from '../bench/result'
import type { ClassPrice } from '../plans/draft'
import { scheduleWords } from '../plans/words'
import { Field } from '../ui/field'
import { counted, formatsOf, isZero, type Formats } from '../ui/format'

type Prices = Schemas['ClassPrices']['rates'][number]['prices'][number]

/** Everything else stands in the table like a class. */
const OTHERS = null
type Group = string | typeof OTHERS

function priceOf(plan: Plan, group: Group): ClassPrice | undefined {
  return group === OTHERS ? plan.others : plan.classes?.find((item) => item.class === group)
}

/** The plan with another price for a class, or with none of its own. */
function withPrice(plan: Plan, group: Group, price: ClassPrice | undefined): Plan {
  const next = { ...plan }
  if (group === OTHERS) {
    if (price) next.others = price
    else delete next.others
    return next
  }
  const list = plan.classes ?? []
  const there = list.some((item) => item.class === group)
  if (!price) next.classes = list.filter((item) => item.class !== group)
  else if (there) next.classes = list.map((item) => (item.class === group ? price : item))
  else next.classes = [...list, { ...price, class: group }]
  return next
}

function pointerOf(plan: Plan, group: Group): string {
  if (group === OTHERS) return '/plan/others/schedule/amount'
  const at = (plan.classes ?? []).findIndex((item) => item.class === group)
  return `/plan/classes/${at < 0 ? (plan.classes ?? []).length : at}/schedule/amount`
}

/** One price for any class of goods becomes a price for everything else: nothing costs anything else yet. */
function byClass({ schedule, ...rest }: Plan): Plan {
  return {
    ...rest,
    group: 'class',
    classes: [],
    others: { charge: 'once', unclassed: true, ...(schedule ? { schedule } : {}) },
  }
}

/** What a class costs in every zone at 1, 2 and 5 units, side by side, and priced right there. */
export function ByClass() {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store!)
  const [all, setAll] = useState(false)
  const [method, setMethod] = useState('')
  const { data } = useQuery({
    queryKey: ['class-prices', setup.revision],
    queryFn: ({ signal }) => call<Schemas['ClassPrices']>('GET', '/api/class-prices', undefined, signal),
    placeholderData: keepPreviousData,
  })
  const groups: { id: Group; name: string }[] = [
    ...setup.classes,
    { id: OTHERS, name: 'Everything else' },
  ].map(({ id, name }) => ({ id, name: name ?? '' }))
  const rates = setup.zones.flatMap(({ id }) =>
    setup.rates.filter(
      (rate) =>
        rate.zone === id &&
        rate.plan &&
        (all || rate.plan.group === 'class') &&
        (!method || rate.method === method),
    ),
  )
  const figures = (rate: Rate, group: Group): Prices | undefined => {
    const at = data?.examples.findIndex((example) => example.class === group) ?? -1
    return at < 0 ? undefined : data?.rates.find((row) => row.rate === rate.id)?.prices[at]
  }
  const dearest = Math.max(
    ...rates.flatMap((rate) =>
      groups.flatMap(({ id }) => (figures(rate, id) ?? []).map(({ price }) => Number(price ?? 0))),
    ),
    0,
  )
  const example = (group: Group) => data?.examples.find((found) => found.class === group)?.name
  return (
    <div className="pb-8">
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <select
          className="field"
          aria-label="Only of a method"
          value={method}
          onChange={(event) => setMethod(event.target.value)}
        >
          <option value="">every method</option>
          {setup.methods.map((item) => (
            <option key={item.id} value={item.id}>
              {item.name}
            </option>
          ))}
        </select>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} />
          rates that do not price by class too
        </label>
        <span className="text-soft">
          Bars: what {(data?.units ?? [1, 2, 5]).join(', ')} units cost of the class’s goods of middle weight.
        </span>
      </div>
      <table className="w-full table-fixed border-collapse">
        <thead className="sticky top-0 z-10 bg-paper">
          <tr className="text-left align-bottom font-cond">
            <th className="w-40 py-1 font-medium text-soft">Zone and method</th>
            {groups.map(({ id, name }) => (
              <th key={id ?? ''} className="py-1 pr-2 leading-tight font-semibold" title={example(id)}>
                {name}
                <span className="block truncate text-xs font-normal text-soft">
                  {example(id) ?? 'no goods'}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rates.map((rate, index) => {
            const name = rate.name ?? setup.methods.find(({ id }) => id === rate.method)?.name ?? ''
            const zone = setup.zones.find(({ id }) => id === rate.zone)?.name ?? ''
            const first = rates[index - 1]?.zone !== rate.zone
            return (
              <tr
                key={rate.id}
                className={`align-top ${first ? 'border-t border-edge' : 'border-t border-hair'}`}
              >
                <th scope="row" className="py-1.5 pr-2 text-left font-normal">
                  {first && <span className="block font-cond font-semibold">{zone}</span>}
                  <Link
                    className="inline-block min-h-[24px] underline underline-offset-2"
                    to={`/#rate=${rate.id}&field=plan`}
                  >
                    {name}
                  </Link>
                  {!rate.active && <span className="text-soft"> · off</span>}
                  {rate.plan?.group !== 'class' && <Split rate={rate} name={name} />}
                </th>
                {groups.map((group) => (
                  <td key={group.id ?? ''} className="py-1.5 pr-2">
                    {rate.plan?.group === 'class' && (
                      <Cell
                        rate={rate}
                        plan={rate.plan}
                        group={group.id}
                        name={`${group.name}, ${name} in ${zone}`}
                      />
                    )}
                    {rate.plan && priceOf(rate.plan, group.id)?.carried !== false && (
                      <Bars
                        prices={figures(rate, group.id)}
                        units={data?.units ?? []}
                        dearest={dearest}
                        formats={formats}
                      />
                    )}
                  </td>
                ))}
              </tr>
            )
          })}
        </tbody>
      </table>
      {rates.length === 0 && (
        <p className="border-t border-hair py-3">
          No rate {method ? 'of this method ' : ''}prices by class yet.{' '}
          {!all && (
            <button type="button" className="quiet underline" onClick={() => setAll(true)}>
              Show the others, to price one by class
            </button>
          )}
        </p>
      )}
    </div>
  )
}

/** A rate that prices the whole cart at once can be made to price by class; its price stays until a class gets one. */
function Split({ rate, name }: { rate: Rate; name: string }) {
  const told = useTold()
  const { plan } = rate
  if (!plan || (plan.group && plan.group !== 'cart')) return null
  return (
    <button
      type="button"
      className="quiet flex px-0 text-left"
      onClick={() =>
        void told(`${name} prices by class`, () =>
          call('PATCH', `/api/rates/${rate.id}`, { plan: byClass(plan), lock_version: rate.lock_version }),
        )
      }
    >
      Price by class
    </button>
  )
}

const CHARGES = [
  ['once', 'once'],
  ['unit', 'a unit'],
  ['no', 'not carried'],
  ['else', 'as the rest'],
] as const

interface CellProps {
  rate: Rate
  plan: Plan
  group: Group
  name: string
}

/** How one class is charged by one rate: once, for each unit, not carried, or as everything else. */
function Cell({ rate, plan, group, name }: CellProps) {
  const { setup, edit } = useWorkshop()
  const { setPreview } = useBenchResult()
  const told = useTold()
  const formats = formatsOf(setup.store!)
  const price = priceOf(plan, group)
  const patch = (next: Plan, version: number) =>
    edit(() => call('PATCH', `/api/rates/${rate.id}`, { plan: next, lock_version: version }))
  const charged = !price ? 'else' : price.carried === false ? 'no' : (price.charge ?? 'once')
  const flat = !price?.schedule || price.schedule.kind === 'flat'
  const typed = (amount: string): Plan =>
    withPrice(
      plan,
      group,
      amount.trim()
        ? { charge: 'once', ...price, carried: true, schedule: { kind: 'flat', amount: amount.trim() } }
        : undefined,
    )
  const choose = (charge: string) => {
    const schedule = price?.schedule ?? plan.others?.schedule ?? { kind: 'flat' as const, amount: '0' }
    const next: ClassPrice | undefined =
      charge === 'else'
        ? undefined
        : charge === 'no'
          ? { carried: false }
          : { ...price, carried: true, charge: charge as 'once' | 'unit', schedule }
    const own = next && group === OTHERS ? { ...next, unclassed: price?.unclassed ?? true } : next
    void told('', () =>
      patch(
        withPrice(plan, group, own && group !== OTHERS ? { ...own, class: group } : own),
        rate.lock_version,
      ),
    )
  }
  return (
    <div className="flex flex-wrap items-center gap-1">
      {flat && charged !== 'no' ? (
        <Field
          label={`Amount: ${name}`}
          hideLabel
          prefix={formats.symbol}
          width="w-14"
          inputMode="decimal"
          placeholder={group === OTHERS ? 'none' : 'rest'}
          value={price?.schedule?.amount ?? ''}
          version={rate.lock_version}
          pointer={pointerOf(plan, group)}
          save={(amount, version) => patch(typed(amount), version)}
          read={(current) => priceOf((current as Rate).plan ?? {}, group)?.schedule?.amount ?? ''}
          show={(amount) => (amount ? formats.money(amount) : 'no price of its own')}
          typing={(amount) => setPreview(amount === null ? null : { rate: rate.id, plan: typed(amount) })}
        />
      ) : (
        charged !== 'no' && (
          <Link
            className="min-h-[24px] truncate underline underline-offset-2"
            title={scheduleWords(price?.schedule, formats)}
            to={`/#rate=${rate.id}&field=plan`}
          >
            {
              { steps: 'in steps', grid: 'in a grid', first: 'first and more', flat: '' }[
                price!.schedule!.kind
              ]
            }
          </Link>
        )
      )}
      <select
        className="min-h-[24px] max-w-full rounded-xs bg-transparent text-soft"
        aria-label={`How it is charged: ${name}`}
        value={charged}
        onChange={(event) => choose(event.target.value)}
      >
        {CHARGES.map(([value, words]) => (
          <option key={value} value={value}>
            {group === OTHERS && value === 'else' ? 'not said' : words}
          </option>
        ))}
      </select>
    </div>
  )
}

const LEAST = 3
const RANGE = 26

const CAUSES: Record<string, string> = {
  not_carried: 'not carried',
  no_class_price: 'not said',
  blank_cell: 'not said',
  above_last_step: 'not available',
}

/** Three small bars, as high as their prices: for one, two and five units. */
function Bars({
  prices,
  units,
  dearest,
  formats,
}: {
  prices: Prices | undefined
  units: number[]
  dearest: number
  formats: Formats
}) {
  if (!prices) return null
  const causes = new Set(prices.map(({ cause }) => cause))
  const cause = causes.size === 1 ? prices[0]?.cause : null
  if (cause)
    return (
      <p className="hole mt-1 border border-dashed border-edge px-1">
        <span className="bg-paper px-1 text-soft">{CAUSES[cause] ?? 'not available'}</span>
      </p>
    )
  return (
    <ol className="mt-0.5 flex items-end gap-px" aria-label="prices by units">
      {prices.map(({ price }, at) => {
        const free = price !== null && isZero(price)
        const height = LEAST + (dearest > 0 ? Math.round(RANGE * Math.sqrt(Number(price ?? 0) / dearest)) : 0)
        return (
          <li key={at} className="min-w-0 flex-1 text-xs text-soft">
            <span className="block truncate leading-tight text-ink">
              <span className="sr-only">{counted(units[at] ?? 0, 'unit')}: </span>
              {price === null ? 'no' : free ? formats.price(price) : price}
            </span>
            <span
              aria-hidden
              className={`block border border-b-0 border-edge ${price === null ? 'hole' : free ? 'bg-lime' : 'bg-sand'}`}
              style={{ height }}
            />
            <span aria-hidden className="block border-t border-ink text-center leading-tight">
              {units[at]}
            </span>
          </li>
        )
      })}
    </ol>
  )
}
