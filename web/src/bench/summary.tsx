import { useWorkshop } from '../edits/workshop'
import { statusSentence } from '../words/reckoning'
import { formatsOf } from '../ui/format'
import { useBenchCart } from '../cart/cart'
import { useBenchResult } from '../cart/result'

/** One line of what the bench cart gets, for where there is room for no more. */
export function Summary() {
  const { setup } = useWorkshop()
  const { cart } = useBenchCart()
  const { bench, error } = useBenchResult()
  const formats = formatsOf(setup.store)
  if (error) return <span className="truncate text-brick">{error.message}</span>
  if (!bench) return <span className="truncate text-soft">Pricing the cart …</span>
  const priced = bench.quote.methods.filter(({ price }) => price !== null)
  const where = [cart.country, cart.postcode].filter(Boolean).join(' ')
  return (
    <span className="min-w-0 flex-1 truncate" aria-live="polite">
      {where && <span className="text-soft">{where}: </span>}
      {priced.length === 0
        ? (statusSentence(bench.quote, setup) ?? 'No method has a price.')
        : priced.map(({ rate, name, price }, at) => (
            <span key={rate}>
              {at > 0 && ' · '}
              {name} <b>{formats.price(price!)}</b>
            </span>
          ))}
    </span>
  )
}
