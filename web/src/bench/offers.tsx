import { useState } from 'react'
import { Link } from 'react-router'
import type { Outlook } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { offerName, reasonSentence, standWords } from '../words/offers'
import { isZero, type Formats } from '../ui/format'
import { useBenchResult } from '../cart/result'
import { Button } from '../ui/button'

/** How far the cart is from each offer; the others, and why they do not act, one click away. */
export function BenchOffers({ formats }: { formats: Formats }) {
  const { setup } = useWorkshop()
  const { bench } = useBenchResult()
  const [open, setOpen] = useState(false)
  const outlooks = bench?.quote.offers ?? []
  if (!outlooks.length) return null
  const near = outlooks.filter(({ state }) => ['acted', 'below', 'no_gain'].includes(state))
  const others = outlooks.filter((outlook) => !near.includes(outlook))
  const free = bench!.quote.methods.some(
    ({ price, offers }) => price !== null && isZero(price) && offers.length > 0,
  )
  return (
    <section aria-label="Offers" className="mt-1 pt-1">
      <ul>
        {near.map((outlook) => (
          <li key={outlook.offer} className="border-b border-hair py-1">
            <Link className="opens font-normal" to={`/offers#offer=${outlook.offer}`}>
              {offerName(outlook.offer, setup)}
            </Link>
            <span className="block text-xs text-soft">
              {outlook.state === 'acted' && !outlook.methods.length ? '' : null}
              {standWords(outlook, setup, formats)}
            </span>
            {outlook.state === 'below' && <Distance outlook={outlook} />}
          </li>
        ))}
      </ul>
      {(others.length > 0 || !free) && (
        <Button
          look="quiet"
          className="mt-1 px-0 underline underline-offset-2"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {free ? 'Why not the other offers?' : 'Why is there no free shipping?'}
        </Button>
      )}
      {open && (
        <ul className="border-l-2 border-ink pl-2">
          {outlooks
            .filter(({ state }) => state !== 'acted')
            .map((outlook) => (
              <li key={outlook.offer} className="py-0.5 text-xs">
                <Link className="opens" to={`/offers#offer=${outlook.offer}`}>
                  {offerName(outlook.offer, setup)}
                </Link>
                {': '}
                {outlook.reasons.length
                  ? outlook.reasons.map((reason) => reasonSentence(reason, outlook, setup, formats)).join(' ')
                  : standWords(outlook, setup, formats)}
              </li>
            ))}
        </ul>
      )}
    </section>
  )
}

/** A road with the cart on it: how much of the way to the threshold it has gone. */
function Distance({ outlook }: { outlook: Outlook }) {
  const whole = parseFloat(outlook.threshold ?? '0')
  const here = parseFloat(outlook.here ?? '0')
  const share = whole > 0 ? Math.min(100, Math.max(0, (here / whole) * 100)) : 0
  return (
    <span aria-hidden className="mt-1 block h-1 w-full bg-hair">
      <span className="block h-1 bg-ink" style={{ width: `${share}%` }} />
    </span>
  )
}
