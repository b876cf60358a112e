import { useCallback, useEffect, useRef, type FocusEvent, type KeyboardEvent } from 'react'

/**
 * Makes many alike things of a page one stop of the Tab key: the arrow keys up and down go from one to the next, and Tab
 * comes back to the one that was left. The things themselves have the tab index -1.
 * @param of a selector of these things, below the element that takes what this returns
 */
export function useOneStop<Element extends HTMLElement>(of: string) {
  const ref = useRef<Element>(null)
  const all = useCallback(() => [...(ref.current?.querySelectorAll<HTMLElement>(of) ?? [])], [of])
  const stop = useCallback(
    (there: HTMLElement | undefined) => {
      for (const one of all()) one.tabIndex = one === there ? 0 : -1
    },
    [all],
  )
  // What was the stop may be gone, and what is there may have been drawn only now.
  useEffect(() => {
    const things = all()
    if (!things.some(({ tabIndex }) => tabIndex === 0)) stop(things[0])
  })
  return {
    ref,
    onFocus: ({ target }: FocusEvent<Element>) => {
      if (target.matches(of)) stop(target)
    },
    onKeyDown: (event: KeyboardEvent<Element>) => {
      const things = all()
      const at = things.findIndex((one) => one === event.target)
      const to = { ArrowDown: at + 1, ArrowUp: at - 1, Home: 0, End: things.length - 1 }[event.key]
      const next = at < 0 || to === undefined ? undefined : things[to]
      if (!next) return
      event.preventDefault()
      next.focus()
      next.scrollIntoView({ block: 'nearest' })
    },
  }
}
