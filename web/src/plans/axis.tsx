import { nice, ticks, tickStep } from 'd3-array'
import type { Schemas } from '../api/client'
import type { Formats } from '../ui/format'
import { once } from '../ui/locale'

export const MEASURES = ['value', 'weight', 'quantity'] as const
export type MeasureName = (typeof MEASURES)[number]
export const MEASURE_WORDS: Record<MeasureName, string> = {
  value: 'order value',
  weight: 'weight',
  quantity: 'quantity',
}

export interface Axis {
  measure: MeasureName
  /** Percent of the axis at which a figure stands. */
  scale: (figure: number) => number
  ticks: number[]
  label: (at: number) => string
  /** Where it ends, as the server reads it: "150.00", "12 kg", "40". */
  most: string
  /** Where the bench cart stands, and how that is written; nothing where it has no such measure. */
  here: { at: number; text: string } | null
}

export interface Stand {
  /** A decimal in the axis's unit. */
  at: string | null
  text: string
}

/** Where the bench cart stands on an axis: along quantity it is the chosen line's units that count. */
export function standOf(
  measure: MeasureName,
  measures: Schemas['Measures'] | undefined,
  units: number | undefined,
  formats: Formats,
): Stand | null {
  if (!measures) return null
  if (measure === 'value') return { at: measures.value, text: formats.money(measures.value) }
  if (measure === 'weight') return measures.weight ? { at: measures.weight, text: measures.weight } : null
  return units === undefined ? null : { at: String(units), text: String(units) }
}

/** About how many figures stand along the axis. */
const TICKS = 6

/** The axis that all strips share: wide enough that the bench cart stands in its left half; zoom makes it longer. */
export function axisOf(
  measure: MeasureName,
  stand: Stand | null,
  zoom: number,
  formats: Formats,
  unit: string,
  exponent: number,
): Axis {
  const at = stand?.at ? parseFloat(stand.at) : null
  const least = { value: 100, weight: 5, quantity: 20 }[measure]
  const [, end] = nice(0, Math.max(least, (at ?? 0) * 2.2) * zoom, TICKS)
  const digits = Math.max(0, -Math.floor(Math.log10(tickStep(0, end, TICKS))))
  const figures = once(
    `axis ${digits}`,
    (locale) =>
      new Intl.NumberFormat(locale, { minimumFractionDigits: digits, maximumFractionDigits: digits }),
  )
  const format = (tick: number) => figures.format(tick)
  const label = (tick: number) =>
    measure === 'value'
      ? `${formats.symbol}${format(tick)}`
      : measure === 'weight'
        ? `${format(tick)} ${unit}`
        : format(tick)
  const most = {
    value: end.toFixed(exponent),
    weight: `${Number(end.toFixed(6))} ${unit}`,
    quantity: String(Math.max(1, Math.ceil(end))),
  }[measure]
  const here = at === null || at === 0 || at > end ? null : { at, text: stand!.text }
  return { measure, scale: (figure) => (figure / end) * 100, ticks: ticks(0, end, TICKS), label, most, here }
}

/** The figures above the strips, with the bench cart's own in ink. */
export function AxisRuler({ axis }: { axis: Axis }) {
  return (
    <div aria-hidden className="relative h-9 text-xs text-soft">
      {axis.ticks.map((tick, at) => (
        <span
          key={tick}
          className="absolute bottom-0 border-l border-edge pb-1 pl-1 whitespace-nowrap"
          style={{ left: `${axis.scale(tick)}%` }}
        >
          {/* On a phone there is room for every third figure. */}
          <span className={at % 3 === 0 ? '' : 'max-sm:hidden'}>
            {axis.here && Math.abs(axis.scale(tick) - axis.scale(axis.here.at)) < 7 ? '' : axis.label(tick)}
          </span>
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
