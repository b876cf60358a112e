import { byId } from '../api/by-id'
import type { Plan, Rate, Schemas, Setup } from '../api/client'
import { liveSentence } from './carriers'
import { type Formats } from '../ui/format'
import { counted } from '../ui/locale'
import { edgesOf, measureWords, type ClassPrice, type Schedule, type ScheduleOf, type Step } from './measures'

const GROUPS: Record<string, string> = {
  product: 'for each product',
  unit: 'for each unit',
  parcel: 'for each parcel',
}
const COMBINE: Record<string, string> = {
  highest: ', of these the highest',
  lowest: ', of these the lowest',
  dearest_first: ', one first unit at the highest price and every other unit as a further one',
}

function bound(text: string, measure: string | undefined, formats: Formats): string {
  return measure === 'value' ? formats.money(text).replace(/\.00$/, '') : text
}

function stepWords(step: Step, formats: Formats): string {
  if (step.none) return 'not available'
  const parts = [step.amount ? formats.price(step.amount) : 'no price']
  if (step.each && step.increment)
    parts.push(`${formats.money(step.each)} for each started ${step.increment.replace(/^1 /, '')}`)
  if (step.percent) parts.push(`${step.percent} % of the value`)
  return parts.join(' and ')
}

/** "£4.95 up to 2 kg, £7.50 up to 5 kg, then £7.50 and £1.10 for each started kg; above 30 kg not available" */
function stepsWords(schedule: ScheduleOf<'steps'>, formats: Formats): string {
  const { measure, steps } = schedule
  const upTo = edgesOf(schedule) === 'up_to'
  const part = (index: number) => {
    const step = steps[index]!
    const words = stepWords(step, formats)
    const next = steps[index + 1]
    const start = bound(step.at, measure, formats)
    if (step.none && !next) return `${upTo ? 'above' : 'from'} ${start} not available`
    if (upTo)
      return next ? `${words} up to ${bound(next.at, measure, formats)}` : index ? `then ${words}` : words
    return index ? `from ${start} ${words}` : words
  }
  // Of many only the first ones and the last are said.
  const many = steps.length > 8
  const shown = Array.from({ length: many ? 6 : steps.length }, (_, index) => part(index))
  if (many) shown.push(`… (${steps.length} steps)`, part(steps.length - 1))
  return `by ${measureWords(measure)}: ${shown.join(', ')}`
}

export function scheduleWords(schedule: Schedule | undefined, formats: Formats): string {
  switch (schedule?.kind) {
    case 'flat':
      return schedule.amount ? formats.price(schedule.amount) : 'no price'
    case 'first':
      return `${formats.money(schedule.first || '0')} for the first unit, ${formats.money(schedule.additional || '0')} for each more`
    case 'steps':
      return stepsWords(schedule, formats)
    case 'grid': {
      const columns = schedule.columns.areas
        ? schedule.columns.areas.map(({ name }) => name).join(', ')
        : measureWords(schedule.columns.measure)
      const blank = schedule.cells.flat().filter((cell) => !cell).length
      return `by a grid of ${measureWords(schedule.rows.measure)} and ${columns}${blank ? ` (${counted(blank, 'cell')} not said yet)` : ''}`
    }
    default:
      return 'no price'
  }
}

function classWords(price: ClassPrice, formats: Formats): string {
  if (price.carried === false) return 'not carried'
  return `${scheduleWords(price.schedule, formats)}${price.charge === 'unit' ? ' for each unit' : ''}`
}

/** A whole rate read back: what carriers are asked, and the merchant's own price beside it. */
export function rateSentence(rate: Rate, formats: Formats, setup: Setup): string {
  if (!rate.live) return planSentence(rate.plan ?? null, formats, setup)
  const live = liveSentence(rate.live, setup, formats)
  if (!rate.plan) return live
  const own = planSentence(rate.plan, formats, setup)
  return rate.live.own === 'instead'
    ? `${own}. Where that gives no price: ${live}`
    : `${live} Your own price: ${own}`
}

/** A plan read back as a sentence. */
export function planSentence(plan: Plan | null, formats: Formats, setup: Setup): string {
  if (!plan) return 'No price is set, so it is not offered.'
  const name = (id: string | undefined) => byId(setup.classes, id)?.name ?? 'a class that is gone'
  const classes = plan.classes ?? []
  // Of many only the first ones are said.
  const shown = classes.length > 8 ? 6 : 8
  const price =
    plan.group === 'class'
      ? [
          ...classes.slice(0, shown).map((item) => `${name(item.class)}: ${classWords(item, formats)}`),
          ...(classes.length > shown ? [counted(classes.length - shown, 'more class', 'more classes')] : []),
          ...(plan.others
            ? [
                `everything else${plan.others.unclassed ? ' and goods without a class' : ''}: ${classWords(plan.others, formats)}`,
              ]
            : ['anything else: not said']),
        ].join('; ')
      : [GROUPS[plan.group ?? ''], scheduleWords(plan.schedule, formats)].filter(Boolean).join(' ')
  const { handling } = plan
  const parts = [
    `${price}${COMBINE[plan.combine ?? ''] ?? ''}`,
    handling &&
      `handling ${[handling.fixed && formats.money(handling.fixed), handling.percent && `${handling.percent} %`].filter(Boolean).join(' and ')}${handling.per && handling.per !== 'order' ? ` for each ${handling.per}` : ''}`,
    plan.minimum && `at least ${formats.money(plan.minimum)}`,
    plan.maximum && `at most ${formats.money(plan.maximum)}`,
    plan.ending && `up to the next ${plan.ending.replace(/^0/, '')}`,
  ].filter(Boolean)
  const text = parts.join('; ')
  return text.charAt(0).toUpperCase() + text.slice(1)
}

export function parcelsWords(parcels: Schemas['Parcels'] | undefined): string {
  if (!parcels) return 'as the shop’s'
  const how = {
    one: 'all in one',
    unit: 'one for each unit',
    fixed: 'one of a fixed size',
    boxes: 'packed into boxes',
  }[parcels.kind]
  return `${how}${parcels.up_to ? ` up to ${parcels.up_to}` : ''}${parcels.divisor ? `, divisor ${parcels.divisor}` : ''}`
}
