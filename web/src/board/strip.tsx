import type { Plan } from '../api/client'
import { isZero, type Formats } from '../ui/format'
import type { Axis } from './axis'

/** The drawn price line of one rate. A flat amount is one step that never ends: its open end is an arrow. */
export function Strip({
  plan,
  axis,
  formats,
  off,
}: {
  plan: Plan | null
  axis: Axis
  formats: Formats
  off: boolean
}) {
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
  return (
    <div className="relative mr-3 h-9">
      <div className={`absolute inset-x-0 top-2 flex h-6 items-center border border-edge px-2 ${tone}`}>
        <span className={`font-medium ${amount === undefined ? 'bg-paper px-1' : ''}`}>
          {words}
          {off && <span className="text-soft"> · off</span>}
        </span>
      </div>
      <svg aria-hidden viewBox="0 0 8 16" className="absolute top-3 -right-2 h-4 w-2">
        <path d="M0 0 8 8 0 16z" fill="var(--color-ink)" />
      </svg>
      {axis.here && (
        <span
          aria-hidden
          className="absolute top-0 h-9 border-l-2 border-ink"
          style={{ left: `${axis.scale(axis.here.at)}%` }}
        >
          <span className="absolute -bottom-0.5 -left-[4px] size-1.5 rounded-full bg-ink" />
        </span>
      )}
    </div>
  )
}
