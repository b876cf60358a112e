import type { Schemas } from '../api/client'

export type Schedule = Schemas['Schedule']
export type ScheduleOf<K extends Schedule['kind']> = Extract<Schedule, { kind: K }>
export type Step = Schemas['Step']
export type ClassPrice = Schemas['ClassPrice']
export type Measure = Schemas['MeasureName']

export const MEASURES: [Measure, string][] = [
  ['weight', 'weight'],
  ['billable_weight', 'billable weight'],
  ['value', 'value'],
  ['quantity', 'quantity'],
  ['volume', 'volume'],
  ['longest', 'longest side'],
]

export function measureWords(measure: string | undefined): string {
  return MEASURES.find(([name]) => name === measure)?.[1] ?? ''
}

/** Where boundaries belong unless the schedule says: as in the core. */
export function edgesOf(schedule: { measure?: Measure; edges?: 'from' | 'up_to' }): 'from' | 'up_to' {
  return (
    schedule.edges ?? (schedule.measure === 'value' || schedule.measure === 'quantity' ? 'from' : 'up_to')
  )
}

/** The first boundary of a measure, and the unit in which the shop writes others. */
export function zeroOf(measure: Measure, store: Schemas['Store']): string {
  const unit = unitOf(measure, store)
  return unit ? `0 ${unit}` : '0'
}

export function unitOf(measure: Measure | undefined, store: Schemas['Store']): string {
  if (measure === 'weight' || measure === 'billable_weight') return store.weight_unit ?? 'kg'
  if (measure === 'longest') return store.length_unit ?? 'cm'
  if (measure === 'volume') return store.length_unit === 'in' || store.length_unit === 'ft' ? 'in3' : 'l'
  return ''
}

/** A bare figure in the unit of its measure. */
export function withUnit(text: string, unit: string): string {
  return unit && /^\s*[\d.,]+\s*$/.test(text) ? `${text.trim()} ${unit}` : text.trim()
}
