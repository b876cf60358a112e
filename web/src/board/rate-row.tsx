import { memo, useEffect, useRef } from 'react'
import type { Method, MethodQuote, Rate } from '../api/client'
import { Reckoned } from '../reckoning/reckoned'
import { toldCauses } from '../words/reckoning'
import { liveWords, type Formats } from '../ui/format'
import { Before } from '../ui/price'
import type { Axis } from '../plans/axis'
import type { Piece } from '../plans/lines'
import { Strip } from '../plans/strip'
import { lazily } from '../ui/lazily'
import { Button } from '../ui/button'

interface Props {
  rate: Rate
  method: Method
  siblings: Rate[]
  axis: Axis
  pieces: Piece[] | undefined
  formats: Formats
  /** The highest price on the Board. */
  dearest: number
  open: boolean
  /** The field that a reckoning's line led to. */
  focus: string | null
  /** What the bench cart gets of it, and what it got before an edit. */
  quote: MethodQuote | undefined
  before: string | null | undefined
  /** Whether a price of it is being typed. */
  typed: boolean
  toggle: (kind: 'rate', id: string) => void
}

const RateEditor = lazily(async () => (await import('./rate-editor')).RateEditor)

export const ROW = 'grid grid-cols-[minmax(8rem,13rem)_minmax(6rem,1fr)_9rem] items-center gap-x-3'

/** Method, strip, price. A click on the row edits the rate in place, a click on the price shows its reckoning. */
export const RateRow = memo(function RateRow({
  rate,
  method,
  siblings,
  axis,
  pieces,
  formats,
  dearest,
  open,
  focus,
  quote,
  before,
  typed,
  toggle: toggleOf,
}: Props) {
  const toggle = () => toggleOf('rate', rate.id)
  const name = rate.name ?? method.name
  const row = useRef<HTMLLIElement>(null)
  useEffect(() => {
    if (open && focus) row.current?.scrollIntoView({ block: 'nearest' })
  }, [open, focus])
  return (
    <li ref={row} className="border-t border-hair first:border-t-0">
      <div className={ROW}>
        <Button
          look="bare"
          className="min-w-0 rounded-xs py-1 text-left hover:underline"
          aria-expanded={open}
          onClick={toggle}
        >
          <span className="block font-medium break-words">
            <span className="sr-only">Edit </span>
            {name}
          </span>
          <span className="block truncate text-xs text-soft">{promised(rate, method, quote)}</span>
        </Button>
        {/* A second way in for the pointer; the button beside it is the one for the keyboard. */}
        <div onClick={toggle} className="cursor-pointer">
          <Strip
            name={name ?? ''}
            pieces={pieces}
            priced={rate.plan !== null || rate.live !== null || typed}
            axis={axis}
            formats={formats}
            off={!rate.active || !method.active}
            dearest={dearest}
          />
        </div>
        <RowPrice quote={quote} before={before} name={name ?? ''} formats={formats} />
      </div>
      {open && <RateEditor rate={rate} method={method} formats={formats} siblings={siblings} focus={focus} />}
    </li>
  )
})

/** The merchant's promise, or the carrier's days; and how old a live price is. */
function promised(rate: Rate, method: Method, quote: MethodQuote | undefined): string {
  if (!rate.live) return method.promise ?? ''
  const live = quote?.live ?? null
  // Its own price counts: the carriers' days do not.
  if (live === null && quote?.price) return method.promise ?? ''
  const days = quote?.days && `${[...new Set(quote.days)].join('–')} business days`
  const words = rate.live.promise === 'merchant' ? method.promise : days
  return [words, live === null ? 'asked live' : liveWords(live)].filter(Boolean).join(' · ')
}

interface PriceProps {
  quote: MethodQuote | undefined
  before: string | null | undefined
  name: string
  formats: Formats
}

function RowPrice({ quote, before, name, formats }: PriceProps) {
  if (!quote) return <span />
  const causes = toldCauses(quote.causes, formats).map((cause) => cause.text)
  return (
    <span
      className={quote.price === null ? 'py-1 text-right text-xs text-soft' : 'text-right whitespace-nowrap'}
    >
      <Before amount={before} formats={formats} />
      <Reckoned method={quote} name={name} formats={formats} side="left" none={causes.join(' ')} />
    </span>
  )
}
