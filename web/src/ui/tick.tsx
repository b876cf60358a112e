import { Check } from 'lucide-react'
import { Checkbox } from 'radix-ui'
import type { ReactNode } from 'react'

interface Props {
  on: boolean
  change: (on: boolean) => void
  /** What it says to a screen reader, where there are no words beside it or they need more. */
  label?: string
  disabled?: boolean
  tabIndex?: number
  className?: string
  children?: ReactNode
}

/** A box to tick, with what it says beside it. */
export function Tick({ on, change, label, disabled, tabIndex, className = '', children }: Props) {
  const box = (
    <Checkbox.Root
      checked={on}
      onCheckedChange={(next) => change(next === true)}
      aria-label={label}
      disabled={disabled}
      tabIndex={tabIndex}
      className={`grid size-7 shrink-0 place-items-center rounded-xs disabled:text-edge ${children ? '' : className}`}
    >
      <span aria-hidden className="grid size-4 place-items-center rounded-xs border border-edge bg-white">
        <Checkbox.Indicator>
          <Check size={14} strokeWidth={3} className="block" />
        </Checkbox.Indicator>
      </span>
    </Checkbox.Root>
  )
  if (!children) return box
  return (
    <label className={`inline-flex min-h-7 items-start gap-1 ${className}`}>
      {box}
      <span className="pt-1">{children}</span>
    </label>
  )
}
