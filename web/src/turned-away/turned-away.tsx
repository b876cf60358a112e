import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answerOf, api, type Schemas, type Setup } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { benchOf, useBenchCart } from '../cart/cart'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { formatsOf } from '../ui/format'
import { count, counted, list, placeName } from '../ui/locale'
import { timeWords } from '../ui/moment'
import { Empty } from '../ui/said'
import { Select } from '../ui/select'
import { Table } from '../ui/table'
import { AwayMap } from './away-map'
import { causeWords, settingOf, whereWords } from '../words/live'

type Report = Schemas['TurnedAwayReport']
type Group = Schemas['TurnedAwayGroup']

const SPANS = [
  ['1', 'today'],
  ['7', 'seven days'],
  ['30', 'thirty days'],
  ['90', 'ninety days'],
] as const

export function useTurnedAway(days: number) {
  return useQuery({
    queryKey: ['turned-away', days],
    queryFn: ({ signal }) => answerOf(api.GET('/api/turned-away', { params: { query: { days } }, signal })),
    placeholderData: keepPreviousData,
    // They come from elsewhere.
    refetchOnWindowFocus: 'always',
  })
}

/** What checkouts asked for and could not get: how often, worth how much, since when, and why. */
export function TurnedAway() {
  const [days, setDays] = useState<(typeof SPANS)[number][0]>('30')
  const report = useTurnedAway(Number(days))
  return (
    <div className="max-w-5xl pb-8">
      <div className="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <p className="text-soft">Carts for which checkouts were told nothing to choose, over the last</p>
        <Select label="Over the last" value={days} choices={SPANS} choose={setDays} />
      </div>
      <Answer of={report}>{(found) => <Found report={found} />}</Answer>
    </div>
  )
}

function Found({ report }: { report: Report }) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  return (
    <div className="flex flex-col gap-6">
      {report.carts === 0 ? (
        <Empty>Nobody was turned away: every cart that was asked for could get something.</Empty>
      ) : (
        <>
          <p className="text-lg">
            <b>{counted(report.carts, 'cart')}</b> worth {formats.money(report.worth)}
          </p>
          <div className="grid gap-6 xl:grid-cols-[3fr_2fr]">
            <ul aria-label="Turned away" className="min-w-0">
              {report.groups.map((group) => (
                <One key={`${group.status} ${group.zone} ${group.country} ${group.first_at}`} of={group} />
              ))}
            </ul>
            <AwayMap countries={report.countries} />
          </div>
        </>
      )}
      <NeverChosen report={report} />
    </div>
  )
}

/** "37 carts to Northern Ireland with Inflatable dinghy: goods that may not travel with it." */
export function awaySentence(group: Group, setup: Setup): string {
  const goods = group.goods.map(({ sku, name }) => name ?? sku)
  const held = goods.length && goods.length < 4 ? ` with ${list(goods)}` : ''
  return `${counted(group.times, 'cart')} to ${whereWords({ ...group, postcode: null }, setup, placeName)}${held}: ${causeWords(group)}`
}

function One({ of: group }: { of: Group }) {
  const { setup } = useWorkshop()
  const { replace } = useBenchCart()
  const formats = formatsOf(setup.store)
  const day = (at: string) => timeWords(at, { day: 'numeric', month: 'short' })
  const setting = settingOf(group)
  return (
    <li className="border-t border-hair py-2 first:border-0">
      <p className="font-medium">{awaySentence(group, setup)}</p>
      <p className="text-xs text-soft">
        Worth {formats.money(group.worth)}, {day(group.first_at)}
        {day(group.first_at) !== day(group.last_at) && ` to ${day(group.last_at)}`}
        {group.postcodes.length > 0 &&
          `, mostly ${list(group.postcodes.map(({ code, times }) => `${code} (${count(times)})`))}`}
      </p>
      <p className="flex gap-x-4">
        <Button look="quiet" className="underline" onClick={() => replace(benchOf(group.cart, ''))}>
          The smallest of them on the bench
        </Button>
        <Link className="quiet underline" to={setting.path}>
          {setting.words}
        </Link>
      </p>
    </li>
  )
}

function NeverChosen({ report: { chosen } }: { report: Report }) {
  const seldom = chosen.filter((one) => one.chosen === 0)
  return (
    <section aria-label="Offered, never chosen">
      <h2 className="mb-1 border-b border-ink text-lg">Offered, never chosen</h2>
      {seldom.length === 0 ? (
        <p>
          {chosen.length
            ? 'Every method that was offered was chosen at least once.'
            : 'No quote that can be ordered was asked for yet.'}
        </p>
      ) : (
        <Table aria-label="Offered, never chosen" className="w-full">
          <thead>
            <tr className="text-left font-cond text-soft">
              <th className="py-1 pr-3 font-normal">Method</th>
              <th className="py-1 pr-3 font-normal">Zone</th>
              <th className="py-1 pr-3 text-right font-normal">Offered</th>
              <th className="py-1 text-right font-normal">Chosen</th>
            </tr>
          </thead>
          <tbody>
            {seldom.map(({ rate, name, zone, offered, chosen: times }) => (
              <tr key={rate} className="border-t border-hair">
                <th scope="row" className="py-1 pr-3 text-left font-normal">
                  <Link className="underline" to={`/#rate=${rate}`}>
                    {name}
                  </Link>
                </th>
                <td className="py-1 pr-3">{zone}</td>
                <td className="py-1 pr-3 text-right tabular-nums">{count(offered)}</td>
                <td className="py-1 text-right tabular-nums">{count(times)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </section>
  )
}
