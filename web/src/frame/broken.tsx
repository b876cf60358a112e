import type { FallbackProps } from 'react-error-boundary'
import { Button } from '../ui/button'
import { Panel } from '../ui/said'

/** A section that fell over: the bench and everything else go on. */
export function Broken({ error, resetErrorBoundary }: FallbackProps) {
  // A part of the page that could not be fetched is only fetched again with the page.
  const unfetched = error instanceof Error && /import|fetch/i.test(error.message)
  return (
    <Panel tone="bad" className="m-4 max-w-2xl">
      <h1 className="text-xl">This section cannot be shown</h1>
      <p className="mt-1">
        Something in it went wrong. Nothing that you stored is lost, and what is not stored yet is still
        listed at the top.
      </p>
      <p className="mt-1 text-soft">{error instanceof Error ? error.message : String(error)}</p>
      <Button className="mt-2" onClick={() => (unfetched ? location.reload() : resetErrorBoundary())}>
        Show it again
      </Button>
    </Panel>
  )
}
