import { useCallback, useEffect, useRef, useState, type ReactNode } from 'react'
import { ApiProblem, type Plan, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import { formatsOf } from '../ui/format'
import { isReordered, newSchedule, planOf, type ClassPrice, type Schedule } from './draft'
import { ScheduleEditor } from './schedule-editor'
import { planSentence } from './words'

interface Props {
  label: string
  /** Of the first field, for those who are led here. */
  inputId?: string
  plan: Plan | null
  version: number
  /** Where the server points when it is wrong: "/plan" or "/cost". */
  pointer: string
  preview: (plan: Plan | null) => void
  /** What is wrong with what is being typed, by pointers below the plan. */
  previewAt: (pointer: string) => string | undefined
  /** Stores it, and answers with what is stored. */
  save: (plan: Plan | null, version: number) => Promise<Plan | null>
  /** Reads the plan out of what a conflict brings along. */
  read: (current: unknown) => Plan | null
}

const GROUPS: [NonNullable<Plan['group']>, string][] = [
  ['cart', 'the whole cart'],
  ['class', 'each class of goods'],
  ['product', 'each product'],
  ['unit', 'each unit'],
  ['parcel', 'each parcel'],
]
const COMBINE: [NonNullable<Plan['combine']>, string][] = [
  ['sum', 'added up'],
  ['highest', 'the highest alone'],
  ['lowest', 'the lowest alone'],
  ['dearest_first', 'the dearest first price once, every other unit at its additional one'],
]

/** A plan, edited in place: what is typed redraws strip and bench at once, and is stored when the field is left. */
export function PlanEditor({
  label,
  inputId,
  plan,
  version,
  pointer,
  preview,
  previewAt,
  save,
  read,
}: Props) {
  const { setup } = useWorkshop()
  const store = setup.store!
  const formats = formatsOf(store)
  const blank: Plan = { schedule: { kind: 'flat', amount: '' } }
  const [draft, setDraft] = useState<Plan | null>(null)
  const [problem, setProblem] = useState<Error | null>(null)
  const [sorted, setSorted] = useState(false)
  const base = useRef(version)
  const typed = useRef<Plan | null>(null)
  const shown = draft ?? plan ?? blank
  const conflict =
    problem instanceof ApiProblem && problem.problem.status === 409
      ? (problem.problem.current as { lock_version: number } | undefined)
      : undefined

  const shownRef = useRef(shown)
  const versionRef = useRef(version)
  useEffect(() => {
    shownRef.current = shown
    versionRef.current = version
  })
  const change = useCallback(
    (update: (old: Plan) => Plan) => {
      if (typed.current === null) base.current = versionRef.current
      const next = update(typed.current ?? shownRef.current)
      typed.current = next
      setDraft(next)
      setProblem(null)
      setSorted(false)
      preview(planOf(next, store))
    },
    [preview, store],
  )
  const keep = async (next: Plan | null, on: number) => {
    try {
      const stored = await save(next, on)
      setSorted(isReordered(next, stored))
      typed.current = null
      setDraft(null)
      setProblem(null)
    } catch (error) {
      setProblem(error as Error)
    }
  }
  const commit = (next?: Plan) => {
    const wanted = next ?? typed.current
    if (wanted === null || conflict) return
    const tidy = planOf(wanted, store)
    if (JSON.stringify(tidy) === JSON.stringify(plan)) {
      typed.current = null
      setDraft(null)
      return
    }
    void keep(tidy, base.current)
  }
  const put = (next: Plan) => {
    change(() => next)
    commit(next)
  }
  const errorAt = (below: string) =>
    (problem instanceof ApiProblem ? problem.at(`${pointer}${below}`) : undefined) ?? previewAt(below)
  const changeSchedule = useCallback(
    (update: (old: Schedule) => Schedule) =>
      change((old) => ({ ...old, schedule: update(old.schedule ?? { kind: 'flat', amount: '' }) })),
    [change],
  )
  const regroup = (group: NonNullable<Plan['group']>) => {
    const { schedule, classes, others, ...rest } = shown
    const first = schedule ?? classes?.[0]?.schedule ?? others?.schedule ?? newSchedule('flat', store)
    const next: Plan =
      group === 'class'
        ? {
            ...rest,
            group,
            classes: classes ?? [],
            others: others ?? { charge: 'once', schedule: first, unclassed: true },
          }
        : { ...rest, ...(group === 'cart' ? {} : { group }), schedule: first }
    if (group === 'cart') {
      delete next.group
      delete next.combine
    }
    put(next)
  }
  const figure = (field: 'minimum' | 'maximum' | 'ending', words: string) => (
    <label className="flex flex-col font-cond text-soft">
      {words}
      <input
        className="field w-20 font-sans"
        aria-label={`${label}: ${words}`}
        aria-invalid={errorAt(`/${field}`) ? true : undefined}
        placeholder="none"
        value={shown[field] ?? ''}
        onChange={(event) => change((old) => ({ ...old, [field]: event.target.value }))}
        onBlur={() => commit()}
        onKeyDown={(event) => event.key === 'Enter' && commit()}
      />
    </label>
  )
  const handling = (field: 'fixed' | 'percent', words: string) => (
    <label className="flex flex-col font-cond text-soft">
      {words}
      <input
        className="field w-20 font-sans"
        aria-label={`${label}: ${words}`}
        aria-invalid={errorAt(`/handling/${field}`) ? true : undefined}
        placeholder="none"
        value={shown.handling?.[field] ?? ''}
        onChange={(event) =>
          change((old) => ({ ...old, handling: { ...old.handling, [field]: event.target.value } }))
        }
        onBlur={() => commit()}
        onKeyDown={(event) => event.key === 'Enter' && commit()}
      />
    </label>
  )
  const adjustments = (['/minimum', '/maximum', '/ending', '/handling/fixed', '/handling/percent'] as const)
    .map(errorAt)
    .find(Boolean)
  const adjusted = Boolean(shown.handling ?? shown.minimum ?? shown.maximum ?? shown.ending)
  return (
    <div className="flex w-full flex-col gap-2">
      <span className="flex flex-wrap items-center gap-2">
        <span className="font-cond text-soft">A price for</span>
        <select
          id={inputId}
          className="field"
          aria-label={`${label}: a price for what`}
          value={shown.group ?? 'cart'}
          onChange={(event) => regroup(event.target.value as NonNullable<Plan['group']>)}
        >
          {GROUPS.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
        {shown.group && shown.group !== 'cart' && (
          <>
            <span className="font-cond text-soft">these are</span>
            <select
              className="field max-w-72"
              aria-label={`${label}: how prices go together`}
              value={shown.combine ?? 'sum'}
              onChange={(event) =>
                put({ ...shown, combine: event.target.value as NonNullable<Plan['combine']> })
              }
            >
              {COMBINE.map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </select>
          </>
        )}
        {errorAt('/combine') && <FieldError>{errorAt('/combine')}</FieldError>}
      </span>
      {shown.group === 'class' ? (
        <Classes label={label} plan={shown} put={put} change={change} commit={commit} errorAt={errorAt} />
      ) : (
        <ScheduleEditor
          label={label}
          schedule={shown.schedule ?? { kind: 'flat', amount: '' }}
          store={store}
          formats={formats}
          change={changeSchedule}
          commit={(schedule) => commit(schedule ? { ...(typed.current ?? shown), schedule } : undefined)}
          errorAt={(below) => errorAt(`/schedule${below}`)}
        />
      )}
      <Part title="Handling, minimum, maximum, ending" open={adjusted}>
        <span className="flex flex-wrap items-end gap-3">
          {handling('fixed', `Handling, ${formats.symbol}`)}
          {handling('percent', 'and percent')}
          <label className="flex flex-col font-cond text-soft">
            for each
            <select
              className="field font-sans"
              aria-label={`${label}: handling for each`}
              value={shown.handling?.per ?? 'order'}
              onChange={(event) =>
                put({
                  ...shown,
                  handling: { ...shown.handling, per: event.target.value as 'order' | 'unit' | 'parcel' },
                })
              }
            >
              <option value="order">order</option>
              <option value="unit">unit</option>
              <option value="parcel">parcel</option>
            </select>
          </label>
          {figure('minimum', 'At least')}
          {figure('maximum', 'At most')}
          {figure('ending', 'Ending, like 0.95')}
        </span>
        {adjustments && <FieldError>{adjustments}</FieldError>}
      </Part>
      <Part title="Parcels and what counts as value" open={Boolean(shown.parcels ?? shown.basis)}>
        <Parcels
          parcels={shown.parcels}
          put={(parcels) => put(withPart(shown, 'parcels', parcels))}
          errorAt={errorAt}
        />
        <BasisChoice basis={shown.basis} put={(basis) => put(withPart(shown, 'basis', basis))} />
      </Part>
      {conflict && (
        <div role="alert" className="border-l-4 border-ochre bg-white px-3 py-2">
          <p>
            Changed elsewhere meanwhile. There now: {planSentence(read(conflict), formats, setup)} What you
            typed is still here.
          </p>
          <p className="mt-1.5 flex gap-2">
            <button
              type="button"
              className="button"
              onClick={() => void keep(planOf(shown, store), conflict.lock_version)}
            >
              Use mine
            </button>
            <button
              type="button"
              className="button"
              onClick={() => {
                typed.current = null
                setDraft(null)
                setProblem(null)
                preview(plan)
              }}
            >
              Keep what is there
            </button>
          </p>
        </div>
      )}
      {problem && !conflict && !(problem instanceof ApiProblem && problem.problem.errors.length) && (
        <FieldError>{problem.message}</FieldError>
      )}
      {sorted && (
        <p role="status" className="text-ochre">
          The steps were not in the order of their edges; they are now.
        </p>
      )}
      <p className="border-t border-hair pt-1.5">
        <span className="font-cond text-soft">Read back: </span>
        {planSentence(planOf(shown, store), formats, setup)}
      </p>
    </div>
  )
}

function withPart<Key extends 'parcels' | 'basis'>(plan: Plan, key: Key, value: Plan[Key] | undefined): Plan {
  const rest = { ...plan }
  delete rest[key]
  return value ? { ...rest, [key]: value } : rest
}

export function Part({ title, open, children }: { title: string; open: boolean; children: ReactNode }) {
  return (
    <details open={open} className="border-t border-hair pt-1">
      <summary className="min-h-[24px] py-0.5 font-cond text-soft">{title}</summary>
      <div className="flex flex-col gap-2 py-1.5">{children}</div>
    </details>
  )
}

interface ClassesProps {
  label: string
  plan: Plan
  put: (plan: Plan) => void
  change: (update: (old: Plan) => Plan) => void
  commit: (plan?: Plan) => void
  errorAt: (pointer: string) => string | undefined
}

/** A schedule for each class, one for everything else; each charged once or for each unit, or not carried. */
function Classes({ label, plan, put, change, commit, errorAt }: ClassesProps) {
  const { setup } = useWorkshop()
  const store = setup.store!
  const formats = formatsOf(store)
  const list = plan.classes ?? []
  const free = setup.classes.filter(({ id }) => !list.some((item) => item.class === id))
  const others = plan.others
  const setClass = (at: number, item: ClassPrice | null): Plan => ({
    ...plan,
    classes: item
      ? list.map((other, index) => (index === at ? item : other))
      : list.filter((_, index) => index !== at),
  })
  const row = (
    name: string,
    item: ClassPrice,
    place: string,
    update: (next: ClassPrice | null) => Plan,
    path: (old: Plan, next: (item: ClassPrice) => ClassPrice) => Plan,
  ) => (
    <div key={place} className="border-l-2 border-edge pl-3">
      <p className="mb-1 flex flex-wrap items-center gap-3">
        <b>{name}</b>
        <select
          className="field"
          aria-label={`${label}: how ${name} is charged`}
          value={item.carried === false ? 'no' : (item.charge ?? 'once')}
          onChange={(event) => {
            const { value } = event.target
            const schedule = item.schedule ?? newSchedule('flat', store)
            put(
              update(
                value === 'no'
                  ? { ...item, carried: false }
                  : { ...item, carried: true, charge: value as 'once' | 'unit', schedule },
              ),
            )
          }}
        >
          <option value="once">once for all of it</option>
          <option value="unit">for each unit</option>
          <option value="no">not carried</option>
        </select>
        {place === '/others' && (
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={item.unclassed ?? false}
              onChange={(event) => put(update({ ...item, unclassed: event.target.checked }))}
            />
            goods without a class too
          </label>
        )}
        <button type="button" className="quiet" onClick={() => put(update(null))}>
          Leave it out<span className="sr-only">: {name}</span>
        </button>
      </p>
      {item.carried !== false && (
        <ScheduleEditor
          label={`${label}, ${name}`}
          schedule={item.schedule ?? { kind: 'flat', amount: '' }}
          store={store}
          formats={formats}
          change={(next) =>
            change((old) =>
              path(old, (one) => ({ ...one, schedule: next(one.schedule ?? { kind: 'flat', amount: '' }) })),
            )
          }
          commit={(schedule) => commit(schedule ? update({ ...item, schedule }) : undefined)}
          errorAt={(below) => errorAt(`${place}/schedule${below}`)}
        />
      )}
    </div>
  )
  return (
    <div className="flex flex-col gap-2">
      {list.map((item, at) =>
        row(
          setup.classes.find(({ id }) => id === item.class)?.name ?? 'a class that is gone',
          item,
          `/classes/${at}`,
          (next) => setClass(at, next),
          (old, next) => ({
            ...old,
            classes: (old.classes ?? []).map((one, index) => (index === at ? next(one) : one)),
          }),
        ),
      )}
      {others
        ? row(
            'Everything else',
            others,
            '/others',
            (next) => {
              const rest = { ...plan }
              delete rest.others
              return next ? { ...rest, others: next } : rest
            },
            (old, next) => ({ ...old, others: next(old.others ?? {}) }),
          )
        : null}
      <span className="flex flex-wrap gap-2">
        {free.length > 0 && (
          <select
            className="field"
            aria-label={`${label}: a price for a class`}
            value=""
            onChange={(event) =>
              change((old) => ({
                ...old,
                classes: [
                  ...(old.classes ?? []),
                  { class: event.target.value, charge: 'once', schedule: { kind: 'flat', amount: '' } },
                ],
              }))
            }
          >
            <option value="">A price for a class …</option>
            {free.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        )}
        {!others && (
          <button
            type="button"
            className="quiet"
            onClick={() =>
              change((old) => ({
                ...old,
                others: { charge: 'once', schedule: { kind: 'flat', amount: '' }, unclassed: true },
              }))
            }
          >
            A price for everything else
          </button>
        )}
      </span>
    </div>
  )
}

/** How goods become parcels here, where it is not as the shop says. */
export function Parcels({
  parcels,
  put,
  errorAt,
  own = false,
}: {
  parcels: Schemas['Parcels'] | undefined
  put: (parcels: Schemas['Parcels'] | undefined) => void
  errorAt: (pointer: string) => string | undefined
  /** The shop's own policy: there is always one. */
  own?: boolean
}) {
  const [draft, setDraft] = useState<Schemas['Parcels'] | null>(null)
  const shown = draft ?? parcels
  const set = (fields: Partial<Schemas['Parcels']>) => shown && setDraft({ ...shown, ...fields })
  const keep = () => {
    if (!draft) return
    const tidy = Object.fromEntries(
      Object.entries(draft).filter(([, value]) => value !== ''),
    ) as Schemas['Parcels']
    put(tidy)
    setDraft(null)
  }
  const figure = (field: 'up_to' | 'tare' | 'divisor', words: string, hint: string) => (
    <label className="flex flex-col font-cond text-soft">
      {words}
      <input
        className="field w-24 font-sans"
        placeholder={hint}
        aria-invalid={errorAt(`/parcels/${field}`) ? true : undefined}
        value={shown?.[field] ?? ''}
        onChange={(event) => set({ [field]: event.target.value })}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
    </label>
  )
  const problem = ['', '/up_to', '/tare', '/divisor', '/size']
    .map((at) => errorAt(`/parcels${at}`))
    .find(Boolean)
  return (
    <span className="flex flex-wrap items-end gap-3">
      <label className="flex flex-col font-cond text-soft">
        Parcels
        <select
          className="field font-sans"
          value={shown?.kind ?? ''}
          onChange={(event) => {
            const kind = event.target.value as Schemas['Parcels']['kind'] | ''
            if (!kind) return put(undefined)
            const size =
              kind === 'fixed' ? { size: { length: '30 cm', width: '20 cm', height: '15 cm' } } : {}
            put({ kind, ...(shown?.divisor ? { divisor: shown.divisor } : {}), ...size })
          }}
        >
          {!own && <option value="">as the shop’s</option>}
          <option value="one">all in one</option>
          <option value="unit">one for each unit</option>
          <option value="fixed">one of a fixed size</option>
        </select>
      </label>
      {shown?.kind === 'one' && figure('up_to', 'up to', 'any weight')}
      {shown?.kind === 'fixed' && (
        <>
          {(['length', 'width', 'height'] as const).map((side) => (
            <label key={side} className="flex flex-col font-cond text-soft">
              {side}
              <input
                className="field w-20 font-sans"
                value={shown.size?.[side] ?? ''}
                onChange={(event) => set({ size: { ...shown.size!, [side]: event.target.value } })}
                onBlur={keep}
              />
            </label>
          ))}
          {figure('tare', 'packing weighs', 'nothing')}
        </>
      )}
      {shown && figure('divisor', 'volumetric divisor', 'none')}
      {shown?.divisor && (
        <select
          className="field"
          aria-label="Divisor in"
          value={shown.per ?? 'kg'}
          onChange={(event) => put({ ...shown, per: event.target.value as 'kg' | 'lb' })}
        >
          <option value="kg">cm³ for a kg</option>
          <option value="lb">in³ for a lb</option>
        </select>
      )}
      {problem && <FieldError>{problem}</FieldError>}
    </span>
  )
}

function BasisChoice({
  basis,
  put,
}: {
  basis: Schemas['Basis'] | undefined
  put: (basis: Schemas['Basis'] | undefined) => void
}) {
  const choice = (field: 'discounts' | 'tax', options: [string, string][]) => (
    <select
      className="field"
      aria-label={`Value ${field}`}
      value={basis?.[field] ?? ''}
      onChange={(event) => {
        const next = { ...basis, [field]: event.target.value || undefined }
        const kept = Object.fromEntries(Object.entries(next).filter(([, value]) => value)) as Schemas['Basis']
        put(Object.keys(kept).length ? kept : undefined)
      }}
    >
      <option value="">as the shop’s</option>
      {options.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  )
  return (
    <span className="flex flex-wrap items-center gap-2">
      <span className="font-cond text-soft">The value counts</span>
      {choice('discounts', [
        ['after', 'after discounts'],
        ['before', 'before discounts'],
      ])}
      {choice('tax', [
        ['with', 'with tax'],
        ['without', 'without tax'],
      ])}
    </span>
  )
}
