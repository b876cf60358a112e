import { ChevronRight } from 'lucide-react'
import { Collapsible } from 'radix-ui'
import { useState, type ReactNode } from 'react'

interface Props {
  title: ReactNode
  /** Whether it begins open. */
  open?: boolean
  className?: string
  /** What it holds, or how to make it, given the way to close it, once it is open. */
  children: ReactNode | ((close: () => void) => ReactNode)
}

/** What is wanted less often than what stands above it: a line that opens. */
export function Fold({ title, open: begins = false, className = '', children }: Props) {
  const [open, setOpen] = useState(begins)
  return (
    <Collapsible.Root open={open} onOpenChange={setOpen} className={`border-t border-hair pt-1 ${className}`}>
      <Collapsible.Trigger className="flex min-h-7 items-center gap-1 rounded-xs text-left font-cond text-soft hover:text-ink">
        <ChevronRight size={13} aria-hidden className={open ? 'rotate-90' : ''} />
        {title}
      </Collapsible.Trigger>
      <Collapsible.Content className="flex flex-col gap-2 py-1.5">
        {typeof children === 'function' ? children(() => setOpen(false)) : children}
      </Collapsible.Content>
    </Collapsible.Root>
  )
}

/** A question that is asked less often, and what it says now, as the title of a fold. */
export function Folded({ question, said, none }: { question: string; said: string; none: string }) {
  return (
    <span>
      <b className="text-base text-ink">{question}</b> {said || none}
    </span>
  )
}
