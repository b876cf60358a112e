import { useCallback, useRef } from 'react'

/**
 * Tells answers apart that may come in another order than their questions: call it before asking, and what it returns
 * after the answer, which says whether nothing newer has been asked meanwhile.
 */
export function useLatest(): () => () => boolean {
  const count = useRef(0)
  return useCallback(() => {
    count.current += 1
    const mine = count.current
    return () => mine === count.current
  }, [])
}
