import { keysOf } from '../api/shapes'
import { X } from 'lucide-react'
import { useCallback } from 'react'
import { Link } from 'react-router'
import { ApiProblem, type Live, type Rate, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { usePreview } from '../cart/result'
import { moved } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { useWhole } from '../edits/whole'
import { Conflict } from '../ui/conflict'
import { FieldError } from '../ui/field-error'
import { formatsOf } from '../ui/format'
import { Movers } from '../ui/row-buttons'
import { Typed } from '../ui/typed'
import { liveSentence, serviceName, TROUBLES, type Trouble } from '../words/carriers'
import { PerSelect } from '../plans/per-select'
import { Select } from '../ui/select'
import { Button } from '../ui/button'

type Fallback = Schemas['Fallback']

/** How a rate asks carriers: which services, which answer counts, what is put on top, and what happens in trouble. */
export function LiveEditor({ rate }: { rate: Rate }) {
  const { setup } = useWorkshop()
  const { setPreview, preview, previewProblem } = usePreview()
  const formats = formatsOf(setup.store)
  const edited = useEdited('rates', rate)
  const showing = useCallback(
    (shown: Rate | null) =>
      setPreview(shown && { rate: rate.id, plan: shown.plan ?? null, live: shown.live ?? null }),
    [setPreview, rate.id],
  )
  const prices = useWhole<Rate, Live | null>(edited, 'live', 'Live prices', {
    read: (there) => there.live ?? null,
    write: (typed) => ({ live: typed }),
    preview: showing,
  })
  const { shown: live, current, problem } = prices
  const change = (next: Live) => prices.change(() => next)
  const put = (next: Live | null) => prices.commit(next)
  const commit = () => prices.commit()
  const own = preview && 'rate' in preview && preview.rate === rate.id
  const errorAt = (pointer: string) =>
    prices.errorAt(`/live${pointer}`) ?? (own ? previewProblem?.at(`/preview/live${pointer}`) : undefined)
  if (!setup.carriers.length)
    return (
      <p>
        There are no carriers yet.{' '}
        <Link className="underline underline-offset-2" to="/carriers">
          Add one
        </Link>
      </p>
    )
  const all = setup.carriers.flatMap((carrier) =>
    (carrier.services ?? []).map(({ code }) => ({ carrier: carrier.id, service: code })),
  )
  const chosen = live?.services ?? []
  const free = all.filter(
    (one) => !chosen.some(({ carrier, service }) => carrier === one.carrier && service === one.service),
  )
  const add = (
    <Select
      label="Add a service"
      placeholder={chosen.length ? 'another service …' : 'ask a carrier’s service …'}
      value=""
      choices={free.map((service, at) => [at, serviceName(service, setup)] as const)}
      choose={(value) => {
        const service = free[value]!
        put(live ? { ...live, services: [...chosen, service] } : { services: [service] })
      }}
    />
  )
  if (!live) return <div>{add}</div>
  const figure = (field: 'minimum' | 'maximum' | 'ending', label: string) => (
    <Typed
      label={label}
      width="w-20"
      placeholder="none"
      inputMode="decimal"
      value={live[field] ?? ''}
      error={errorAt(`/${field}`)}
      change={(text) => {
        const { [field]: _, ...rest } = live
        change(text ? { ...rest, [field]: text } : rest)
      }}
      commit={commit}
    />
  )
  const markup = (field: 'percent' | 'fixed', label: string) => (
    <Typed
      label={label}
      width="w-20"
      placeholder="none"
      inputMode="decimal"
      value={live.handling?.[field] ?? ''}
      error={errorAt(`/handling/${field}`)}
      change={(text) => {
        const { [field]: _, ...others } = live.handling ?? {}
        const handling: NonNullable<Live['handling']> = text ? { ...others, [field]: text } : others
        const { handling: __, ...rest } = live
        change(handling.fixed || handling.percent ? { ...rest, handling } : rest)
      }}
      commit={commit}
    />
  )
  return (
    <div className="flex flex-col gap-3">
      <p>
        <span className="font-cond text-soft">Read back: </span>
        {liveSentence(live, setup, formats)}
      </p>
      <ol className="flex flex-col gap-0.5">
        {chosen.map((service, at) => (
          <li key={`${service.carrier} ${service.service}`} className="flex items-center gap-1">
            <span className="w-64">{serviceName(service, setup)}</span>
            <Movers
              name={serviceName(service, setup)}
              at={at}
              of={chosen.length}
              move={(by) => put({ ...live, services: moved(chosen, at, by)! })}
            />
            <Button
              look="quiet"
              className="px-1"
              aria-label={`Do not ask ${serviceName(service, setup)}`}
              onClick={() => {
                const services = chosen.filter((_, place) => place !== at)
                if (services.length) put({ ...live, services })
                else put(null)
              }}
            >
              <X size={13} aria-hidden />
            </Button>
          </li>
        ))}
        <li>{free.length > 0 && add}</li>
        {errorAt('/services') && <FieldError>{errorAt('/services')}</FieldError>}
      </ol>
      <span className="flex flex-wrap items-end gap-3">
        <label className="flex flex-col font-cond text-soft">
          Which answer counts
          <Select
            label="Which answer counts"
            value={live.answer ?? 'cheapest'}
            choices={[
              ['cheapest', 'the cheapest'],
              ['fastest', 'the fastest'],
              ['first', 'the first in this list that answers'],
            ]}
            choose={(value) => put({ ...live, answer: value })}
          />
        </label>
        {rate.plan && (
          <label className="flex flex-col font-cond text-soft">
            Your own price above
            <Select
              label="Your own price above"
              value={live.own ?? 'fallback'}
              choices={[
                ['fallback', 'only in trouble'],
                ['instead', 'wherever it gives a price'],
              ]}
              choose={(value) => put({ ...live, own: value })}
            />
          </label>
        )}
      </span>
      <span className="flex flex-wrap items-start gap-3">
        {markup('percent', 'Markup, %')}
        {markup('fixed', `and ${formats.symbol}`)}
        {live.handling?.fixed && (
          <label className="flex flex-col gap-1 font-cond text-soft">
            for each
            <PerSelect
              per={live.handling?.per}
              put={(per) => put({ ...live, handling: { ...live.handling, per } })}
            />
          </label>
        )}
        {figure('minimum', 'At least')}
        {figure('maximum', 'At most')}
        {figure('ending', 'Ending')}
      </span>
      <Ladder live={live} rate={rate} change={change} put={put} commit={commit} errorAt={errorAt} />
      <label className="flex items-center gap-2">
        <span className="font-cond text-soft">When it arrives is said</span>
        <Select
          label="When it arrives is said"
          value={live.promise ?? 'carrier'}
          choices={[
            ['carrier', 'by the carrier’s days'],
            ['merchant', 'by the method’s own promise'],
          ]}
          choose={(value) => put({ ...live, promise: value })}
        />
      </label>
      {current && (
        <Conflict mine={prices.useMine} theirs={prices.drop}>
          <p>
            Changed elsewhere meanwhile. There now:{' '}
            {current.live ? liveSentence(current.live, setup, formats) : 'it asks nobody.'} What you typed is
            still here.
          </p>
        </Conflict>
      )}
      {problem && !(problem instanceof ApiProblem && problem.problem.errors.length) && (
        <FieldError>{problem.message}</FieldError>
      )}
    </div>
  )
}

/** What happens in trouble, read from top to bottom. */
function Ladder({
  live,
  rate,
  change,
  put,
  commit,
  errorAt,
}: {
  live: Live
  rate: Rate
  change: (live: Live) => void
  put: (live: Live) => void
  commit: () => void
  errorAt: (pointer: string) => string | undefined
}) {
  const { setup } = useWorkshop()
  const { symbol } = formatsOf(setup.store)
  const withStep = (trouble: Trouble, step: Fallback): Live => ({
    ...live,
    ladder: { ...live.ladder, [trouble]: step },
  })
  return (
    <fieldset className="border-l-2 border-ink pl-3">
      <legend className="sr-only">In trouble</legend>
      {keysOf(TROUBLES).map((trouble) => {
        const step = live.ladder?.[trouble] ?? { kind: 'none' as const }
        return (
          <span key={trouble} className="flex flex-wrap items-start gap-2 py-0.5">
            <span className="w-72 pt-1.5">{TROUBLES[trouble]}:</span>
            <Select
              label={TROUBLES[trouble]}
              value={step.kind}
              choices={[
                ['none', 'not available'],
                ['amount', 'an amount'],
                (rate.plan !== undefined || step.kind === 'plan') && ['plan', 'your own price above'],
              ]}
              choose={(kind) => {
                if (kind === 'amount') change(withStep(trouble, { kind, amount: '' }))
                else put(withStep(trouble, { kind }))
              }}
            />
            {step.kind === 'amount' && (
              <Typed
                label={`${TROUBLES[trouble]}: amount, ${symbol}`}
                hideLabel
                width="w-20"
                inputMode="decimal"
                placeholder={symbol}
                value={step.amount ?? ''}
                error={errorAt(`/ladder/${trouble}/amount`)}
                change={(amount) => change(withStep(trouble, { kind: 'amount', amount }))}
                commit={commit}
              />
            )}
          </span>
        )
      })}
      {errorAt('/ladder') && !errorAt('/ladder/')?.length && <FieldError>{errorAt('/ladder')}</FieldError>}
    </fieldset>
  )
}
