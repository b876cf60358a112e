import { Trash2, X } from 'lucide-react'
import { Button } from './button'

/** Ends an editor: with what it edits removed, or as it stands. */
export function EditorButtons({
  remove,
  close,
  closing,
  focused,
}: {
  remove: () => void
  close: () => void
  /** What the button that closes is called. */
  closing: string
  /** Whether the keyboard begins at the button that closes. */
  focused?: boolean
}) {
  return (
    <>
      <Button look="quiet" onClick={remove}>
        <Trash2 size={13} aria-hidden /> Remove
      </Button>
      <Button look="quiet" className="px-1" aria-label={closing} autoFocus={focused} onClick={close}>
        <X size={14} aria-hidden />
      </Button>
    </>
  )
}
