import { useState } from 'react'
import { Button } from './button'

/** What can't be taken back: it is asked once more, in the same place. */
export function Sure({
  act,
  really,
  disabled,
  run,
}: {
  act: string
  /** What pressing it once more does. */
  really: string
  disabled?: boolean
  run: () => void
}) {
  const [asked, setAsked] = useState(false)
  if (!asked)
    return (
      <Button look="quiet" onClick={() => setAsked(true)}>
        {act}
      </Button>
    )
  return (
    <>
      <Button className="border-brick text-brick" disabled={disabled} onClick={run}>
        {really}
      </Button>{' '}
      <Button look="quiet" onClick={() => setAsked(false)}>
        Cancel
      </Button>
    </>
  )
}
