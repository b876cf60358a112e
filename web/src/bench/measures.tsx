import type { Formats } from '../ui/format'
import { useBenchCart } from '../cart/cart'
import { useBenchResult } from '../cart/result'
import { list } from '../ui/locale'

/** What the cart comes to. */
export function Measures({ formats }: { formats: Formats }) {
  const { cart } = useBenchCart()
  const { bench } = useBenchResult()
  const measures = bench?.quote.measures
  if (!measures || cart.lines.length === 0) return null
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 text-soft">
      <b className="text-ink" data-tip="Order value">
        <span className="sr-only">value </span>
        {formats.money(measures.value)}
      </b>
      <span data-tip={list(measures.unweighed)}>
        <span className="sr-only">weight </span>
        {measures.weight ?? 'weight not known'}
      </span>
      <span>
        <span className="sr-only">quantity </span>
        {measures.quantity} <span aria-hidden>{measures.quantity === 1 ? 'unit' : 'units'}</span>
      </span>
      {measures.longest && (
        <span
          data-tip={measures.unsized.length ? `no size known: ${list(measures.unsized)}` : 'Longest side'}
        >
          longest {measures.longest}
        </span>
      )}
    </p>
  )
}
