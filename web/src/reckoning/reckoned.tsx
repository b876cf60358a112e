import { useState, type ReactNode } from 'react'
import type { MethodQuote } from '../api/client'
import type { Formats } from '../ui/format'
import { lazily } from '../ui/lazily'
import { Pop } from '../ui/pop'
import { Price } from '../ui/price'

/** How one price came about. */
export const Reckoning = lazily(async () => (await import('./reckoning')).Reckoning)

/**
 * A price that opens into how it came about, beside it where there is room. What is open stays so while there is no price
 * for a moment.
 */
export function Reckoned({
  method,
  name = method.name,
  formats,
  side = 'right',
  none,
}: {
  method: MethodQuote
  /** As it is called where the price stands. */
  name?: string
  formats: Formats
  side?: 'right' | 'left'
  /** What stands in the place of a price, where there is none. */
  none: ReactNode
}) {
  // Gone to one of its settings, it makes room for that, and stands below the price.
  const [gone, setGone] = useState(false)
  const beside = side === 'left' || !gone
  const priced = (
    <Pop
      label={method.price === null ? '' : `Why ${formats.price(method.price)} for ${name}?`}
      className={
        method.price === null
          ? 'hidden'
          : 'rounded-xs px-0.5 underline decoration-edge decoration-dotted underline-offset-4 hover:decoration-solid data-[state=open]:bg-ink data-[state=open]:text-white'
      }
      button={method.price !== null && <Price amount={method.price} formats={formats} large />}
      side={beside ? side : 'bottom'}
      align={beside ? 'start' : 'end'}
      offset={beside ? 14 : 4}
      contentClass={`text-left whitespace-normal ${beside ? 'w-[26rem]' : 'w-[21rem]'}`}
      // What belongs to the bench is found in it, by readers and by the keyboard.
      inPlace
      stays
    >
      {(close) => (
        <Reckoning
          method={method}
          formats={formats}
          went={() => setGone(true)}
          close={() => {
            setGone(false)
            close()
          }}
        />
      )}
    </Pop>
  )
  return (
    <>
      {method.price === null && none}
      {priced}
    </>
  )
}
