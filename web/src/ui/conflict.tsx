import type { ReactNode } from 'react'
import { Button } from './button'

interface Props {
  id?: string
  children: ReactNode
  mine: () => void
  theirs: () => void
}

/** Somebody changed the same thing meanwhile: what stands there now, and which of the two it shall be. */
export function Conflict({ id, children, mine, theirs }: Props) {
  return (
    <div id={id} role="alert" className="border-l-4 border-ochre bg-white px-3 py-2">
      {children}
      <p className="mt-1.5 flex gap-2">
        <Button onClick={mine}>Use mine</Button>
        <Button onClick={theirs}>Keep what is there</Button>
      </p>
    </div>
  )
}
