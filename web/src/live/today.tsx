import { keysOf } from '../api/shapes'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { answerOf, api, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { Answer } from '../ui/answer'
import { formatsOf } from '../ui/format'
import { count, counted } from '../ui/locale'
import { Empty } from '../ui/said'
import { Table } from '../ui/table'
import { AwayTable } from '../turned-away/away-table'
import { Hours } from './hours'
import { OUTCOMES } from '../words/live'

type Now = Schemas['Today']

/** How often it is looked at anew. */
const PAUSE = 10_000

/** What goes on today: quotes, what was turned away, orders, carriers, and what waits. */
export function WhatGoesOn() {
  const today = useQuery({
    queryKey: ['today'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/today', { signal })),
    refetchInterval: PAUSE,
    placeholderData: keepPreviousData,
  })
  return (
    <div className="max-w-5xl pb-8">
      <p className="mb-2 text-soft">
        Checkout requests since midnight, store time. These counts hold no personal data.
      </p>
      <Answer of={today}>{(now) => <Parts now={now} />}</Answer>
    </div>
  )
}

function Parts({ now }: { now: Now }) {
  return (
    <div className="grid gap-x-10 gap-y-6 xl:grid-cols-[3fr_2fr]">
      <div className="flex min-w-0 flex-col gap-6">
        <Quotes now={now} />
        <TurnedAway now={now} />
      </div>
      <div className="flex min-w-0 flex-col gap-6">
        <Carriers now={now} />
        <Rest now={now} />
      </div>
    </div>
  )
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="mb-1 border-b border-ink text-lg">{title}</h2>
      {children}
    </section>
  )
}

/** How long quotes took. */
const took = (milliseconds: number) =>
  milliseconds < 1 ? 'under 1 ms' : `${count(Math.round(milliseconds))} ms`

function Quotes({ now: { hours, since } }: { now: Now }) {
  const all = hours.reduce((sum, { times }) => sum + times, 0)
  const outcomes = keysOf(OUTCOMES).map((outcome) => {
    const mine = hours.filter((one) => one.outcome === outcome)
    const times = mine.reduce((sum, one) => sum + one.times, 0)
    return {
      outcome,
      times,
      mean: mine.reduce((sum, one) => sum + one.milliseconds, 0) / Math.max(1, times),
      slowest: Math.max(0, ...mine.map(({ slowest }) => slowest)),
    }
  })
  return (
    <Part title={`Quotes: ${count(all)}`}>
      {all === 0 ? (
        <p>Nobody has asked yet today.</p>
      ) : (
        <>
          <Hours since={since} hours={hours} />
          <Table aria-label="What came of them" className="mt-2 w-full">
            <thead>
              <tr className="text-left font-cond text-soft">
                <th className="py-1 pr-3 font-normal">What came of them</th>
                <th className="py-1 pr-3 text-right font-normal">Quotes</th>
                <th className="py-1 pr-3 text-right font-normal">On average</th>
                <th className="py-1 text-right font-normal">The slowest</th>
              </tr>
            </thead>
            <tbody>
              {outcomes
                .filter(({ times }) => times > 0)
                .map(({ outcome, times, mean, slowest }) => (
                  <tr key={outcome} className="border-t border-hair">
                    <th scope="row" className="py-1 pr-3 text-left font-normal">
                      {OUTCOMES[outcome]}
                    </th>
                    <td className="py-1 pr-3 text-right tabular-nums">{count(times)}</td>
                    <td className="py-1 pr-3 text-right tabular-nums">{took(mean)}</td>
                    <td className="py-1 text-right tabular-nums">{took(slowest)}</td>
                  </tr>
                ))}
            </tbody>
          </Table>
        </>
      )}
    </Part>
  )
}

function TurnedAway({ now }: { now: Now }) {
  return (
    <Part title={`Turned away: ${counted(now.turned_away, 'cart')}`}>
      {now.turned_away_most.length ? (
        <AwayTable label="Turned away today" rows={now.turned_away_most} />
      ) : (
        <p>Every cart that was asked for could get something.</p>
      )}
      <p className="mt-1">
        <Link to="/turned-away" className="underline">
          All that was turned away
        </Link>
      </p>
    </Part>
  )
}

function Carriers({ now: { carriers } }: { now: Now }) {
  return (
    <Part title="Carriers">
      {carriers.length === 0 && <Empty>There is no carrier.</Empty>}
      <ul>
        {carriers.map(({ id, name, active, calls, failed, resting, secret_lost: lost }) => {
          const bad = lost || resting
          return (
            <li
              key={id}
              className="flex flex-wrap justify-between gap-x-4 border-t border-hair py-1 first:border-0"
            >
              <Link to={`/carriers#carrier=${id}`} className="font-medium underline">
                {name}
              </Link>
              <span className={bad ? 'text-brick' : active ? '' : 'text-soft'}>
                {bad && <span aria-hidden>▲ </span>}
                {lost
                  ? 'its secret must be typed again'
                  : !active
                    ? 'off'
                    : resting
                      ? 'left alone for a while, after it failed'
                      : calls === 0
                        ? 'not asked in the last hour'
                        : `${counted(calls, 'call')} in the last hour, ${failed ? `${count(failed)} without a price` : 'all answered'}`}
              </span>
            </li>
          )
        })}
      </ul>
    </Part>
  )
}

function Rest({ now: { release, orders, waiting, backup, backup_trouble } }: { now: Now }) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const lines: [string, ReactNode][] = [
    ['Release', release === null ? 'nothing is published' : `${release} is live`],
    [
      'Orders today',
      <Link key="orders" to="/orders" className="underline">
        {`${count(orders.placed)}${orders.cancelled ? `, ${count(orders.cancelled)} of them cancelled` : ''}`}
      </Link>,
    ],
    ['Paid for shipping', formats.money(orders.shipping)],
    [
      'Webhooks',
      waiting.deliveries || waiting.failed
        ? `${count(waiting.deliveries)} wait, ${count(waiting.failed)} failed`
        : 'nothing waits',
    ],
    ['Last backup', backup ?? 'the first one is made tonight'],
    ...(backup_trouble ? ([['Backup failed', backup_trouble]] satisfies [string, string][]) : []),
  ]
  return (
    <Part title="Besides">
      <dl>
        {lines.map(([name, value]) => (
          <div key={name} className="flex justify-between gap-x-4 border-t border-hair py-1 first:border-0">
            <dt className="text-soft">{name}</dt>
            <dd className="text-right">{value}</dd>
          </div>
        ))}
      </dl>
    </Part>
  )
}
