import { byId } from '../api/by-id'
import { Status } from '../ui/alerts'
import { useCallback, useState } from 'react'
import { ApiProblem, type Plan, type Rate } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import type { Edited } from '../edits/edited'
import { useWhole } from '../edits/whole'
import { Conflict } from '../ui/conflict'
import { FieldError } from '../ui/field-error'
import { Fold } from '../ui/fold'
import { formatsOf } from '../ui/format'
import { isReordered, newSchedule, planOf } from './draft'
import { type Schedule } from '../words/measures'
import { Adjustments } from './adjustments'
import { BasisChoice } from './basis-choice'
import { ClassPrices } from './class-prices'
import { Parcels } from './parcels'
import { ScheduleEditor } from './schedule-editor'
import { planSentence } from '../words/plans'
import { Select } from '../ui/select'

interface Props {
  label: string
  /** Of the first field, for those who are led here. */
  inputId?: string
  of: Edited<Rate>
  /** What the rate takes, or what it costs. */
  field: 'plan' | 'cost'
  /** The field of a flat price, which the plan takes the place of. */
  over?: string
  /** Shows at once what is typed; null when nothing is typed any more. */
  preview?: (rate: Rate | null) => void
  /** What is wrong with what is being typed, by pointers below the plan. */
  previewAt?: (pointer: string) => string | undefined
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
  ['dearest_first', 'one first unit at the highest price, every other unit as a further one'],
]
const BLANK: Plan = { schedule: { kind: 'flat', amount: '' } }

/** A plan, edited in place: what is typed redraws strip and bench at once, and is stored when the field is left. */
export function PlanEditor({ label, inputId, of, field, over, preview, previewAt }: Props) {
  const { setup } = useWorkshop()
  const store = setup.store
  const formats = formatsOf(store)
  const [sorted, setSorted] = useState(false)
  const name = of.doc.name ?? byId(setup.methods, of.doc.method)?.name ?? ''
  const plan = useWhole<Rate, Plan>(of, field, `${label}: ${name}`, {
    read: (rate) => rate[field] ?? BLANK,
    write: (typed) => ({ [field]: planOf(typed, store) }),
    ...(preview ? { preview } : {}),
    ...(over ? { over } : {}),
    stored: (sent, answer) => setSorted(isReordered(sent[field] ?? null, answer[field] ?? null)),
  })
  const { shown, change, commit, problem, current } = plan
  const put = commit
  const errorAt = (below: string) => plan.errorAt(`/${field}${below}`) ?? previewAt?.(below)
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
        <Select
          label={`${label}: a price for what`}
          id={inputId}
          value={shown.group ?? 'cart'}
          choices={GROUPS}
          choose={(value) => regroup(value)}
        />
        {shown.group && shown.group !== 'cart' && (
          <>
            <span className="font-cond text-soft">these are</span>
            <Select
              label={`${label}: how prices go together`}
              className="max-w-72"
              value={shown.combine ?? 'sum'}
              choices={COMBINE}
              choose={(value) => put({ ...shown, combine: value })}
            />
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
          commit={(schedule) => {
            if (schedule) change((old) => ({ ...old, schedule }))
            commit()
          }}
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
      <Fold title="Parcels and what counts as value" open={Boolean(shown.parcels ?? shown.basis)}>
        <Parcels
          parcels={shown.parcels}
          change={(parcels) => change((old) => withPart(old, 'parcels', parcels))}
          commit={() => commit()}
          errorAt={errorAt}
        />
        <BasisChoice basis={shown.basis} put={(basis) => put(withPart(shown, 'basis', basis))} />
      </Fold>
      {current && (
        <Conflict mine={plan.useMine} theirs={plan.drop}>
          <p>
            Changed elsewhere meanwhile. There now: {planSentence(current[field] ?? null, formats, setup)}{' '}
            What you typed is still here.
          </p>
        </Conflict>
      )}
      {problem && !(problem instanceof ApiProblem && problem.problem.errors.length) && (
        <FieldError>{problem.message}</FieldError>
      )}
      {sorted && (
        <Status className="text-ochre">The steps were not in the order of their edges; they are now.</Status>
      )}
      <p className="border-t border-hair pt-1.5">
        <span className="font-cond text-soft">Read back: </span>
        {planSentence(of.doc[field] ?? null, formats, setup)}
      </p>
    </div>
  )
}

function withPart<Key extends 'parcels' | 'basis'>(plan: Plan, key: Key, value: Plan[Key] | undefined): Plan {
  const rest = { ...plan }
  delete rest[key]
  return value ? { ...rest, [key]: value } : rest
}
