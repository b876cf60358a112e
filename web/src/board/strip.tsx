import type { Plan } from '../api/client'
import { isZero, type Formats } from '../ui/format'
import type { Axis } from './axis'

interface Props {
  plan: Plan | null
  axis: Axis
  formats: Formats
  off: boolean
  /** The highest price on the Board: the height of every step is measured against it. */
  dearest: number
}

/** Pixels for a price: the root keeps small differences visible beside a pallet's price. */
function heightOf(amount: string | undefined, dearest: number): number {
  return 16 + (dearest > 0 ? Math.round(14 * Math.sqrt(Number(amount ?? 0) / dearest)) : 0)
}

/** The drawn price line of one rate. A flat amount is one step that never ends: its open end is an arrow. */
export function Strip({ plan, axis, formats, off, dearest }: Props) {
  const amount = plan?.schedule.amount
  const free = amount !== undefined && isZero(amount)
  const tone = off
    ? 'bg-paper border-dashed'
    : amount === undefined
      ? 'hole border-dashed'
      : free
        ? 'bg-lime'
        : 'bg-sand'
  const words = amount === undefined ? 'no price set' : formats.price(amount)
  const height = heightOf(amount, dearest)
  return (
    <div className="relative mr-3 h-10">
      <div
        className={`absolute inset-x-0 bottom-1 flex items-center border border-edge px-2 ${tone}`}
        style={{ height: `${height}px` }}
      >
        <span className={`font-medium ${amount === undefined ? 'bg-paper px-1' : ''}`}>
          {words}
          {off && <span className="text-soft"> · off</span>}
        </span>
      </div>
      <svg
        aria-hidden
        viewBox="0 0 8 16"
        className="absolute -right-2 h-4 w-2"
        style={{ bottom: `${height / 2 - 4}px` }}
      >
        <path d="M0 0 8 8 0 16z" fill="var(--color-ink)" />
      </svg>
      {axis.here && (
        <span
          aria-hidden
          className="absolute inset-y-0 border-l-2 border-ink"
          style={{ left: `${axis.scale(axis.here.at)}%` }}
        >
          <span className="absolute -bottom-0.5 -left-[4px] size-1.5 rounded-full bg-ink" />
        </span>
      )}
    </div>
  )
}
