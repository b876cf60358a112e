import { useState, type ReactNode } from 'react'
import { Button } from './button'
import { count } from './locale'

/** The first ones of a list that may be long, and the others once they are asked for. */
export function SomeOf({ items, most = 4 }: { items: readonly ReactNode[]; most?: number }) {
  const [all, setAll] = useState(false)
  // One more than that takes no more room than a button does.
  const shown = all || items.length <= most + 1 ? items : items.slice(0, most)
  return (
    <>
      {shown.map((item, at) => (
        <span key={at}>
          {at > 0 && '; '}
          {item}
        </span>
      ))}
      {shown.length < items.length && (
        <>
          {' '}
          <Button look="quiet" className="px-1" onClick={() => setAll(true)}>
            and {count(items.length - shown.length)} more
          </Button>
        </>
      )}
    </>
  )
}
