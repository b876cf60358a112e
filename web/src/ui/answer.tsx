import type { UseQueryResult } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Panel } from './said'
import { Button } from './button'

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
      <Panel tone="bad">
        <p>{of.error.message}</p>
        <Button className="mt-1.5" onClick={() => void of.refetch()}>
          Try again
        </Button>
      </Panel>
    )
  return (
    <p className="py-1 text-soft" aria-busy>
      {waiting}
    </p>
  )
}
