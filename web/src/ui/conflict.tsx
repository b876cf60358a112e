import type { ReactNode } from 'react'

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
        <button type="button" className="button" onClick={mine}>
          Use mine
        </button>
        <button type="button" className="button" onClick={theirs}>
          Keep what is there
        </button>
      </p>
    </div>
  )
}
