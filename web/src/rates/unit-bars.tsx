import { isZero, type Formats } from '../ui/format'
import { counted } from '../ui/locale'
import type { Prices } from './class-groups'

const LEAST = 3
const RANGE = 26

const CAUSES: Record<string, string> = {
  not_carried: 'not carried',
  no_class_price: 'not said',
  blank_cell: 'not said',
}

/** Three small bars, as high as their prices: for one, two and five units. */
export function UnitBars({
  prices,
  units,
  dearest,
  formats,
}: {
  prices: Prices | undefined
  units: readonly number[]
  dearest: number
  formats: Formats
}) {
  if (!prices) return null
  const causes = new Set(prices.map(({ cause }) => cause))
  const cause = causes.size === 1 ? prices[0]?.cause : null
  if (cause)
    return (
      <p className="hole mt-1 border border-dashed border-edge px-1">
        <span className="bg-paper px-1 text-soft">{CAUSES[cause] ?? 'not available'}</span>
      </p>
    )
  return (
    <ol className="mt-0.5 flex items-end gap-px" aria-label="prices by units">
      {prices.map(({ price }, at) => {
        const free = price !== null && isZero(price)
        const height = LEAST + (dearest > 0 ? Math.round(RANGE * Math.sqrt(Number(price ?? 0) / dearest)) : 0)
        return (
          <li key={at} className="min-w-0 flex-1 text-xs text-soft">
            <span className="block truncate leading-tight text-ink">
              <span className="sr-only">{counted(units[at] ?? 0, 'unit')}: </span>
              {price === null ? 'no' : free ? formats.price(price) : price}
            </span>
            <span
              aria-hidden
              className={`block border border-b-0 border-edge ${price === null ? 'hole' : free ? 'bg-lime' : 'bg-sand'}`}
              style={{ height }}
            />
            <span aria-hidden className="block border-t border-ink text-center leading-tight">
              {units[at]}
            </span>
          </li>
        )
      })}
    </ol>
  )
}
