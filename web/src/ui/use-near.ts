import { useEffect, useRef, useState, type RefObject } from 'react'

/**
 * Whether something has come near the part of the page that is in sight: what is far below is drawn when it comes. Once
 * drawn it stays.
 * @param always draws it wherever it is
 */
export function useNear<Kind extends HTMLElement>(always: boolean): [RefObject<Kind | null>, boolean] {
  const ref = useRef<Kind>(null)
  const [near, setNear] = useState(always)
  useEffect(() => {
    const element = ref.current
    if (near || !element) return
    const watching = new IntersectionObserver(
      ([seen]) => {
        if (seen?.isIntersecting) setNear(true)
      },
      { rootMargin: '600px' },
    )
    watching.observe(element)
    return () => watching.disconnect()
  }, [near])
  return [ref, near || always]
}
