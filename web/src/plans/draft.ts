import { parsed, entriesOf, without } from '../api/shapes'
import type { Plan, Schemas } from '../api/client'
import {
  type Schedule,
  type Step,
  type ClassPrice,
  type Measure,
  zeroOf,
  unitOf,
  withUnit,
} from '../words/measures'
import type { Formats } from '../ui/format'
import { tidyParcels } from './parcels'

/** What the editors of schedules are given. */
export interface ScheduleProps<Kind extends Schedule = Schedule> {
  label: string
  schedule: Kind
  store: Schemas['Store']
  formats: Formats
  change: (update: (old: Kind) => Kind) => void
  commit: (schedule?: Kind) => void
  errorAt: (pointer: string) => string | undefined
}

export function newSchedule(kind: Schedule['kind'], store: Schemas['Store'], amount = ''): Schedule {
  switch (kind) {
    case 'flat':
      return { kind, amount }
    case 'first':
      return { kind, first: amount, additional: '' }
    case 'steps':
      return { kind, measure: 'weight', steps: [{ at: zeroOf('weight', store), amount }] }
    case 'grid':
      return {
        kind,
        rows: { measure: 'weight', at: [zeroOf('weight', store)] },
        columns: { measure: 'value', at: ['0'] },
        cells: [[amount || null]],
      }
  }
}

/** The amount of a flat price; nothing where it is another kind. */
export function amountOf(schedule: Schedule | undefined): string {
  return schedule?.kind === 'flat' ? schedule.amount : ''
}

function tidyStep(step: Step, unit: string): Step {
  if (step.none) return { at: withUnit(step.at, unit), none: true }
  const tidy: Step = { at: withUnit(step.at, unit), amount: (step.amount ?? '').trim() }
  if (step.each?.trim()) tidy.each = step.each.trim()
  if (step.increment?.trim()) tidy.increment = withUnit(step.increment, unit)
  if (step.percent?.trim()) tidy.percent = step.percent.trim()
  return tidy
}

function tidySchedule(schedule: Schedule, store: Schemas['Store']): Schedule {
  if (schedule.kind === 'steps') {
    const unit = unitOf(schedule.measure, store)
    const steps = schedule.steps.filter((step) => step.at.trim() || step.amount?.trim() || step.none)
    return { ...schedule, steps: steps.map((step) => tidyStep(step, unit)) }
  }
  if (schedule.kind === 'grid')
    return {
      ...schedule,
      rows: tidyScale(schedule.rows, store),
      columns: schedule.columns.areas ? schedule.columns : tidyScale(schedule.columns, store),
      cells: schedule.cells.map((row) => row.map((cell) => cell?.trim() || null)),
    }
  return schedule
}

function tidyScale<Scale extends { measure?: Measure; at?: string[] }>(
  scale: Scale,
  store: Schemas['Store'],
): Scale {
  const unit = unitOf(scale.measure, store)
  return { ...scale, at: (scale.at ?? []).map((text) => withUnit(text, unit)) }
}

/** A plan as it is typed, as the server reads it: what is empty is left out. Nothing typed at all is no price. */
export function planOf(draft: Plan, store: Schemas['Store']): Plan | null {
  const price = (item: ClassPrice): ClassPrice =>
    item.carried === false
      ? { ...without(item, 'schedule'), carried: false }
      : { ...item, ...(item.schedule ? { schedule: tidySchedule(item.schedule, store) } : {}) }
  const { handling, minimum, maximum, ending } = draft
  const fixed = handling?.fixed?.trim()
  const percent = handling?.percent?.trim()
  const plan: Plan = {
    ...draft,
    ...(draft.schedule ? { schedule: tidySchedule(draft.schedule, store) } : {}),
    ...(draft.classes ? { classes: draft.classes.map(price) } : {}),
    ...(draft.others ? { others: price(draft.others) } : {}),
  }
  if (plan.parcels) plan.parcels = tidyParcels(plan.parcels)
  delete plan.handling
  if (fixed || percent)
    plan.handling = {
      ...(fixed ? { fixed } : {}),
      ...(percent ? { percent } : {}),
      per: handling?.per ?? 'order',
    }
  for (const [key, value] of entriesOf({ minimum, maximum, ending })) {
    if (value?.trim()) plan[key] = value.trim()
    else delete plan[key]
  }
  const bare = plan.schedule?.kind === 'flat' && !plan.schedule.amount.trim() && !plan.handling
  return bare ? null : parsed<Plan>(JSON.stringify(plan))
}

/** All edges of a plan, in the order in which they stand. */
function edgesIn(plan: Plan | null): string[] {
  const schedules = [
    plan?.schedule,
    plan?.others?.schedule,
    ...(plan?.classes ?? []).map((item) => item.schedule),
  ]
  return schedules.flatMap((schedule) => {
    if (schedule?.kind === 'steps') return schedule.steps.map(({ at }) => at)
    return schedule?.kind === 'grid' ? [...(schedule.rows.at ?? []), ...(schedule.columns.at ?? [])] : []
  })
}

/** Whether what is stored has the same edges in another order. */
export function isReordered(sent: Plan | null, stored: Plan | null): boolean {
  const [one, other] = [edgesIn(sent), edgesIn(stored)]
  return one.join('\n') !== other.join('\n') && one.sort().join('\n') === other.sort().join('\n')
}

/** Whether a plan is one amount and nothing more. */
export function isPlain(plan: Plan | null | undefined): boolean {
  return !plan || (plan.schedule?.kind === 'flat' && Object.keys(plan).length === 1)
}
