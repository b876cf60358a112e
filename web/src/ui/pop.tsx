import { useState, type ComponentProps, type ReactNode } from 'react'
import { lazily } from './lazily'

/** What opens, of every button of this kind. */
export const Popped = lazily<PopProps & { open: boolean; setOpen: (open: boolean) => void }>(
  async () => (await import('./popped')).Popped,
)

export interface PopProps {
  /** What is on the button. */
  button: ReactNode
  label?: string
  title?: string
  className: string
  /** What opens; it is given the way to close itself. */
  children: (close: () => void) => ReactNode
  contentClass: string
  side?: 'bottom' | 'right' | 'left'
  align?: 'start' | 'end'
  offset?: number
  /** Stays in its place in the page, for what belongs to a part of it. */
  inPlace?: boolean
  /** Stays open while one works elsewhere, until another one that stays opens. */
  stays?: boolean
}

/** A button that opens something beside it. How it opens is fetched when it is first pressed. */
export function Pop(props: PopProps) {
  const [open, setOpen] = useState(false)
  const [used, setUsed] = useState(false)
  const { button, label, title, className } = props
  const plain: ComponentProps<'button'> & { 'data-tip'?: string | undefined } = {
    type: 'button',
    className,
    'data-tip': title,
    'aria-label': label,
    'aria-haspopup': 'dialog',
    'aria-expanded': false,
  }
  const first = (
    <button
      {...plain}
      onClick={() => {
        setUsed(true)
        setOpen(true)
      }}
    >
      {button}
    </button>
  )
  if (!used) return first
  return <Popped {...props} open={open} setOpen={setOpen} meanwhile={first} />
}
