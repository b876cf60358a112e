import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, answerOf, type Rate } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useEdited } from '../edits/edited'
import { formatsOf } from '../ui/format'
import { OnlyOf } from '../ui/only-of'
import { ClassCell } from './class-cell'
import { byClass, OTHERS, priceOf, type Group, type Prices } from './class-groups'
import { UnitBars } from './unit-bars'
import { Table } from '../ui/table'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'
import { list } from '../ui/locale'

/** What a class costs in every zone at 1, 2 and 5 units, side by side, and priced right there. */
export function ByClass() {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store!)
  const [all, setAll] = useState(false)
  const [method, setMethod] = useState('')
  const { data } = useQuery({
    queryKey: ['class-prices', setup.revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/class-prices', { signal })),
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
        <OnlyOf what="method" items={setup.methods} chosen={method} choose={setMethod} />
        <Tick on={all} change={(on) => setAll(on)}>
          rates that do not price by class too
        </Tick>
        <span className="text-soft">
          Bars: what {list(data?.units ?? [1, 2, 5])} units cost of the class’s goods of middle weight.
        </span>
      </div>
      <Table className="w-full min-w-[44rem] table-fixed" sticky>
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
                      <ClassCell rate={rate} group={group.id} name={`${group.name}, ${name} in ${zone}`} />
                    )}
                    {rate.plan && priceOf(rate.plan, group.id)?.carried !== false && (
                      <UnitBars
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
      </Table>
      {rates.length === 0 && (
        <p className="border-t border-hair py-3">
          No rate {method ? 'of this method ' : ''}prices by class yet.{' '}
          {!all && (
            <Button look="quiet" className="underline" onClick={() => setAll(true)}>
              Show the others, to price one by class
            </Button>
          )}
        </p>
      )}
    </div>
  )
}

/** A rate that prices the whole cart at once can be made to price by class; its price stays until a class gets one. */
function Split({ rate, name }: { rate: Rate; name: string }) {
  const edited = useEdited('rates', rate)
  const { plan } = rate
  if (!plan || (plan.group && plan.group !== 'cart')) return null
  return (
    <Button
      look="quiet"
      className="flex px-0 text-left"
      onClick={() =>
        edited.put('plan group', `${name} prices by class`, (doc) => ({ plan: byClass(doc.plan ?? plan) }))
      }
    >
      Price by class
    </Button>
  )
}
