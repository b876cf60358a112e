import { byId } from '../api/by-id'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { ApiProblem, answerOf } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { awake, useFindings } from '../setup/queries'
import { foreseeing, useAct } from '../edits/use-act'
import { findingSentence } from '../words/findings'
import { rateSentence } from '../words/plans'
import { FieldError } from '../ui/field-error'
import { formatsOf } from '../ui/format'
import { counted } from '../ui/locale'
import { OnlyOf } from '../ui/only-of'
import { Table } from '../ui/table'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'
import { Input } from '../ui/input'
import { Empty } from '../ui/said'

/** All rates as a list, read back in words; many are raised or lowered at once, with every price before and after. */
export function RateList() {
  const { setup } = useWorkshop()
  const act = useAct('/api/rates/change', 'store', 'Change the prices of many rates')
  const formats = formatsOf(setup.store)
  const { data: found } = useFindings(setup.revision)
  const [zone, setZone] = useState('')
  const [method, setMethod] = useState('')
  const [off, setOff] = useState<string[]>([])
  const [percent, setPercent] = useState('')
  const [amount, setAmount] = useState('')
  const shown = setup.rates
    .filter((rate) => (!zone || rate.zone === zone) && (!method || rate.method === method))
    .sort(
      (one, other) =>
        setup.zones.findIndex(({ id }) => id === one.zone) -
        setup.zones.findIndex(({ id }) => id === other.zone),
    )
  const rates = shown.filter(({ id }) => !off.includes(id)).map(({ id }) => id)
  const asked = percent.trim() !== '' || amount.trim() !== ''
  const body = {
    rates,
    ...(percent.trim() ? { percent: percent.trim() } : {}),
    ...(amount.trim() ? { amount: amount.trim() } : {}),
  }
  const { data: plan, error } = useQuery({
    queryKey: ['rates', 'change', setup.revision, body],
    queryFn: ({ signal }) =>
      answerOf(foreseeing.POST('/api/rates/change', { body: { ...body, store: false }, signal })),
    enabled: asked,
    retry: false,
  })
  const problem = error instanceof ApiProblem ? error : null
  const store = () =>
    act.run(
      (to) => to.POST('/api/rates/change', { body: { ...body, store: true } }),
      () => {
        setPercent('')
        setAmount('')
      },
      (done) => `Changed ${counted(done.rates.length, 'rate')}`,
    )
  const changes = asked && !problem ? (plan?.rates ?? []) : []
  return (
    <div className="pb-8">
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <OnlyOf what="zone" items={setup.zones} chosen={zone} choose={setZone} />
        <OnlyOf what="method" items={setup.methods} chosen={method} choose={setMethod} />
        <span className="font-cond text-soft">change their prices by</span>
        <label className="flex items-center gap-1.5">
          <Input
            className="w-20"
            aria-label="Percent"
            aria-invalid={problem?.at('/percent') ? true : undefined}
            placeholder="5 or -5"
            value={percent}
            onChange={(event) => setPercent(event.target.value)}
          />
          %
        </label>
        <label className="flex items-center gap-1.5">
          then {formats.symbol}
          <Input
            className="w-20"
            aria-label={`Amount in ${formats.symbol}`}
            aria-invalid={problem?.at('/amount') ? true : undefined}
            placeholder="0.50"
            value={amount}
            onChange={(event) => setAmount(event.target.value)}
          />
        </label>
        {asked && !problem && (
          <Button className="border-ink font-semibold" disabled={changes.length === 0} onClick={store}>
            Change {counted(changes.length, 'rate')}
          </Button>
        )}
      </div>
      {problem && <FieldError>{problem.summary}</FieldError>}
      {asked && <p className="text-soft">A price of zero stays zero. Nothing falls below zero.</p>}
      <Table className="mt-1 w-full" sticky>
        <thead>
          <tr className="text-left font-cond text-soft">
            <th className="w-7">
              <span className="sr-only">Change it</span>
            </th>
            <th className="font-medium">Zone</th>
            <th className="font-medium">Method</th>
            <th className="w-3/5 font-medium">Price</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((rate) => {
            const name = rate.name ?? byId(setup.methods, rate.method)?.name
            const place = byId(setup.zones, rate.zone)?.name
            const amounts = changes.find((change) => change.rate === rate.id)?.amounts
            const own = awake(found?.findings).filter(
              ({ setting, harm }) => setting?.kind === 'rate' && setting.id === rate.id && harm !== 'note',
            )
            return (
              <tr key={rate.id} className="border-t border-hair align-top">
                <td className="py-1.5">
                  <Tick
                    label={`Change ${name} in ${place} too`}
                    on={!off.includes(rate.id)}
                    change={(on) => setOff(on ? off.filter((id) => id !== rate.id) : [...off, rate.id])}
                  />
                </td>
                <td className="min-w-32 py-1 pr-3">{place}</td>
                <td className="min-w-32 py-1 pr-3">
                  <Link
                    className="inline-block min-h-[24px] font-medium underline underline-offset-2"
                    to={`/#rate=${rate.id}&field=plan`}
                  >
                    {name}
                  </Link>
                  {!rate.active && <span className="text-soft"> · off</span>}
                </td>
                <td className="py-1">
                  {rateSentence(rate, formats, setup)}
                  {amounts && (
                    <span className="flex flex-wrap gap-x-3">
                      {amounts.map(({ pointer, before, after }) => (
                        <span key={pointer} className="whitespace-nowrap">
                          <span className="text-soft">{formats.money(before)} → </span>
                          <b>{formats.money(after)}</b>
                        </span>
                      ))}
                    </span>
                  )}
                  {own.map((finding, at) => {
                    const { text, mend } = findingSentence(finding, setup, formats)
                    return (
                      <span key={at} className="block text-ochre">
                        <span aria-hidden>△ </span>
                        {text} <span className="text-soft">{mend}</span>
                      </span>
                    )
                  })}
                </td>
              </tr>
            )
          })}
        </tbody>
      </Table>
      {shown.length === 0 && (
        <Empty>
          {setup.rates.length > 0 ? 'No rate is like this.' : 'There are no rates yet.'} Rates are added on
          the Board.
        </Empty>
      )}
    </div>
  )
}
