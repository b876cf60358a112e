import { scaleLinear, type ScaleLinear } from 'd3-scale'
import type { Schemas } from '../api/client'
import type { Formats } from '../ui/format'

export const MEASURES = ['value', 'weight', 'quantity'] as const
export type MeasureName = (typeof MEASURES)[number]
export const MEASURE_WORDS: Record<MeasureName, string> = {
  value: 'order value',
  weight: 'weight',
  quantity: 'quantity',
}

export interface Axis {
  measure: MeasureName
  scale: ScaleLinear<number, number>
  ticks: number[]
  label: (at: number) => string
  /** Where the bench cart stands, and how that is written; nothing where it has no such measure. */
  here: { at: number; text: string } | null
}

/** The axis that all strips share: wide enough that the bench cart stands in its left half. */
export function axisOf(
  measure: MeasureName,
  measures: Schemas['Measures'] | undefined,
  formats: Formats,
  unit: string,
): Axis {
  const written =
    measures &&
    { value: measures.value, weight: measures.weight, quantity: String(measures.quantity) }[measure]
  const at = written ? parseFloat(written) : null
  const least = { value: 100, weight: 5, quantity: 20 }[measure]
  const scale = scaleLinear()
    .domain([0, Math.max(least, (at ?? 0) * 2.2)])
    .nice(6)
    .range([0, 100])
  const format = scale.tickFormat(6)
  const label = (tick: number) =>
    measure === 'value'
      ? `${formats.symbol}${format(tick)}`
      : measure === 'weight'
        ? `${format(tick)} ${unit}`
        : format(tick)
  const text = written && measure === 'value' ? formats.money(written) : (written ?? '')
  return { measure, scale, ticks: scale.ticks(6), label, here: at === null || at === 0 ? null : { at, text } }
}

/** The figures above the strips, with the bench cart's own in ink. */
export function AxisRuler({ axis }: { axis: Axis }) {
  return (
    <div aria-hidden className="relative h-9 text-xs text-soft">
      {axis.ticks.map((tick) => (
        <span
          key={tick}
          className="absolute bottom-0 border-l border-edge pb-1 pl-1"
          style={{ left: `${axis.scale(tick)}%` }}
        >
          {axis.here && Math.abs(axis.scale(tick) - axis.scale(axis.here.at)) < 7 ? '' : axis.label(tick)}
        </span>
      ))}
      {axis.here && (
        <span
          className="absolute bottom-0 -translate-x-1/2 rounded-xs bg-ink px-2 py-0.5 font-semibold whitespace-nowrap text-white"
          style={{ left: `${axis.scale(axis.here.at)}%` }}
        >
          {axis.here.text}
        </span>
      )}
    </div>
  )
}
