import type { UseQueryResult } from '@tanstack/react-query'
import type { ReactNode } from 'react'

/** What came of a question: while it is asked, where it failed, and what was answered. Never "nothing" before that. */
export function Answer<Data>({
  of,
  waiting = 'Looking …',
  children,
}: {
  of: UseQueryResult<Data>
  waiting?: string
  children: (data: Data) => ReactNode
}) {
  if (of.data !== undefined) return children(of.data)
  if (of.error)
    return (
      <div role="alert" className="border-l-4 border-brick bg-white px-3 py-2">
        <p>{of.error.message}</p>
        <button type="button" className="button mt-1.5" onClick={() => void of.refetch()}>
          Try again
        </button>
      </div>
    )
  return (
    <p className="py-1 text-soft" aria-busy>
      {waiting}
    </p>
  )
}
