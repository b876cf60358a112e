import { useCallback, useEffect, useRef, useState } from 'react'
import { ApiProblem, type Plan } from '../api/client'
import { useWorkshop } from '../api/setup'
import { Conflict } from '../ui/conflict'
import { FieldError } from '../ui/field'
import { Part } from '../ui/part'
import { formatsOf } from '../ui/format'
import { isReordered, newSchedule, planOf, type Schedule } from './draft'
import { Adjustments } from './adjustments'
import { BasisChoice } from './basis-choice'
import { ClassPrices } from './class-prices'
import { Parcels } from './parcels'
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
        <ClassPrices label={label} plan={shown} put={put} change={change} commit={commit} errorAt={errorAt} />
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
      <Adjustments
        label={label}
        plan={shown}
        symbol={formats.symbol}
        put={put}
        change={change}
        commit={() => commit()}
        errorAt={errorAt}
      />
      <Part title="Parcels and what counts as value" open={Boolean(shown.parcels ?? shown.basis)}>
        <Parcels
          parcels={shown.parcels}
          put={(parcels) => put(withPart(shown, 'parcels', parcels))}
          errorAt={errorAt}
        />
        <BasisChoice basis={shown.basis} put={(basis) => put(withPart(shown, 'basis', basis))} />
      </Part>
      {conflict && (
        <Conflict
          mine={() => void keep(planOf(shown, store), conflict.lock_version)}
          theirs={() => {
            typed.current = null
            setDraft(null)
            setProblem(null)
            preview(plan)
          }}
        >
          <p>
            Changed elsewhere meanwhile. There now: {planSentence(read(conflict), formats, setup)} What you
            typed is still here.
          </p>
        </Conflict>
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
