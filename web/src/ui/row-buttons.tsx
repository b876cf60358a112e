import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'
import { Button } from './button'

interface Moving {
  name: string
  /** Its place, from 0, and how many there are. */
  at: number
  of: number
  move: (by: -1 | 1) => unknown
  /** -1 in a sheet, which is one stop of the Tab key and has keys for it. */
  tabIndex?: number
}

/** Moves an item of a list up and down. */
export function Movers({ name, at, of, move, tabIndex }: Moving) {
  const mover = (by: -1 | 1) => (
    <Button
      look="quiet"
      className="px-1"
      aria-label={`Move ${name} ${by < 0 ? 'up' : 'down'}`}
      disabled={by < 0 ? at === 0 : at === of - 1}
      tabIndex={tabIndex}
      onClick={() => void move(by)}
    >
      {by < 0 ? <ArrowUp size={13} aria-hidden /> : <ArrowDown size={13} aria-hidden />}
    </Button>
  )
  return (
    <>
      {mover(-1)}
      {mover(1)}
    </>
  )
}

/** Removes an item of a list. */
export function Remover({
  name,
  remove,
  open,
  tabIndex,
}: {
  name: string
  remove: () => unknown
  /** Whether what has to be asked first stands open, where there is something to ask. */
  open?: boolean
  tabIndex?: number
}) {
  return (
    <Button
      look="quiet"
      className="px-1"
      aria-label={`Remove ${name}`}
      aria-expanded={open}
      tabIndex={tabIndex}
      onClick={() => void remove()}
    >
      <Trash2 size={13} aria-hidden />
    </Button>
  )
}
