import { byId } from '../api/by-id'
import { Link } from 'react-router'
import type { MethodQuote, Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { settingPath } from '../reckoning/paths'
import { Reckoned } from '../reckoning/reckoned'
import { toldCauses, statusSentence } from '../words/reckoning'
import { isZero, liveWords, type Formats } from '../ui/format'
import { arrivalWords } from '../ui/moment'
import { Before } from '../ui/price'
import { factWords } from '../words/rules'
import { NextGate, useGates } from './gates'
import { BenchOffers } from './offers'
import { useBenchAsking, useBenchResult } from '../cart/result'
import { Button } from '../ui/button'
import { list } from '../ui/locale'
import { Panel } from '../ui/said'

/** The methods that the bench cart gets, with price and promise; then the others, with reasons. */
export function Gets({ formats }: { formats: Formats }) {
  const { setup } = useWorkshop()
  const { bench, error } = useBenchResult()
  const { pending, again } = useBenchAsking()
  const gates = useGates()
  if (error)
    return (
      <Panel tone="bad">
        <p>{error.message}</p>
        <Button className="mt-1.5" onClick={again}>
          Try again
        </Button>
      </Panel>
    )
  if (!bench)
    return (
      <p className="text-soft" aria-busy>
        Pricing the cart …
      </p>
    )
  const { quote } = bench
  const zone = byId(setup.zones, quote.landing?.zone)
  const sentence = statusSentence(quote, setup)
  return (
    <section aria-label="This cart gets" className="pt-0.5">
      <header className="flex items-baseline justify-between gap-2">
        <h2 className="text-lg whitespace-nowrap">
          {pending ? <span className="late text-soft">This cart got; asking again …</span> : 'This cart gets'}
        </h2>
        {zone && <span className="truncate text-right font-cond text-soft">{zone.name}</span>}
      </header>
      {sentence && <p className="mt-2 border-l-4 border-ink bg-white p-2">{sentence}</p>}
      {quote.text && (
        <p className="mt-1 px-2 text-soft">
          The shopper reads: <q>{quote.text}</q>
        </p>
      )}
      <ul aria-busy={pending}>
        {quote.methods.map((method) => (
          <Row key={method.rate} method={method} formats={formats} gates={gates} />
        ))}
      </ul>
      <BenchOffers formats={formats} />
    </section>
  )
}

function Row({
  method,
  formats,
  gates,
}: {
  method: MethodQuote
  formats: Formats
  gates: Schemas['NextGates']['gates']
}) {
  const { before } = useBenchResult()
  const available = method.status === 'available'
  return (
    <li className="border-b border-hair py-0.5">
      <div className="flex items-baseline justify-between gap-2">
        <span className={available ? '' : 'text-soft'}>
          <span className="font-medium break-words">{method.name}</span>
          {available && <Told method={method} formats={formats} />}
          {available &&
            method.messages.map((message, at) => (
              <span key={at} className="block text-xs italic">
                {message}
              </span>
            ))}
          {available && method.provisional.length > 0 && (
            <span className="block text-xs text-ochre">
              may change: {list(method.provisional.map(factWords))} not known
            </span>
          )}
          {!available && method.provisional.length > 0 && (
            <span className="block text-xs text-ochre">
              may be there after all: {list(method.provisional.map(factWords))} not known
            </span>
          )}
          {available && <NextGate method={method} gates={gates} formats={formats} />}
          {toldCauses(method.causes, formats).map((cause, index) => (
            <span key={index} className="block text-xs">
              {cause.text}
              {cause.setting && (
                <>
                  {' '}
                  <Link
                    className="whitespace-nowrap underline underline-offset-2"
                    to={settingPath(cause.setting)}
                  >
                    go to the setting
                  </Link>
                </>
              )}
            </span>
          ))}
        </span>
        <span className="text-right whitespace-nowrap">
          <Before amount={before(method)} formats={formats} />
          <Reckoned method={method} formats={formats} none={<span className="text-soft">no</span>} />
        </span>
      </div>
    </li>
  )
}

/** When it arrives, what is marked, how old a live price is, and what may be due at the border. */
function Told({ method, formats }: { method: MethodQuote; formats: Formats }) {
  const words = [
    method.live !== null && method.days ? null : method.promise,
    method.arrives && arrivalWords(method.arrives),
    ...method.marks,
    method.live !== null && liveWords(method.live),
  ].filter(Boolean)
  return (
    <>
      {words.length > 0 && <span className="text-xs text-soft"> {words.join(' · ')}</span>}
      {method.duty && (
        <span className="block text-xs text-soft">
          {method.duty.included
            ? 'duty and tax included'
            : isZero(method.duty.amount)
              ? 'no duty or tax, by estimate'
              : `and about ${formats.money(method.duty.amount)} duty and tax, an estimate`}
        </span>
      )}
    </>
  )
}
