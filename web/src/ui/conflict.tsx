import type { ReactNode } from 'react'
import { Button } from './button'
import { Panel } from './said'

interface Props {
  id?: string
  children: ReactNode
  mine: () => void
  theirs: () => void
}

/** Somebody changed the same thing meanwhile: what stands there now, and which of the two it shall be. */
export function Conflict({ id, children, mine, theirs }: Props) {
  return (
    <Panel id={id} tone="doubt">
      {children}
      <p className="mt-1.5 flex gap-2">
        <Button onClick={mine}>Use mine</Button>
        <Button onClick={theirs}>Keep what is there</Button>
      </p>
    </Panel>
  )
}
