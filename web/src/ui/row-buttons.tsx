import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'

interface Moving {
  name: string
  /** Its place, from 0, and how many there are. */
  at: number
  of: number
  move: (by: -1 | 1) => unknown
}

/** Moves an item of a list up and down. */
export function Movers({ name, at, of, move }: Moving) {
  return (
    <>
      <button
        type="button"
        className="quiet px-1"
        aria-label={`Move ${name} up`}
        disabled={at === 0}
        onClick={() => void move(-1)}
      >
        <ArrowUp size={13} aria-hidden />
      </button>
      <button
        type="button"
        className="quiet px-1"
        aria-label={`Move ${name} down`}
        disabled={at === of - 1}
        onClick={() => void move(1)}
      >
        <ArrowDown size={13} aria-hidden />
      </button>
    </>
  )
}

/** Removes an item of a list. */
export function Remover({
  name,
  remove,
  open,
}: {
  name: string
  remove: () => unknown
  /** Whether what has to be asked first stands open, where there is something to ask. */
  open?: boolean
}) {
  return (
    <button
      type="button"
      className="quiet px-1"
      aria-label={`Remove ${name}`}
      aria-expanded={open}
      onClick={() => void remove()}
    >
      <Trash2 size={13} aria-hidden />
    </button>
  )
}
