import { useRef, type ReactNode } from 'react'
import { useFault } from './alerts'

/** What stands in place of a list that has nothing in it. */
export function Empty({ children }: { children: ReactNode }) {
  return <p className="border-t border-hair py-3">{children}</p>
}

/** A word or two about something, beside its name: that it is off. */
export function Badge({ children }: { children: ReactNode }) {
  return <span className="border border-edge px-1.5 text-xs font-semibold">{children}</span>
}

const TONES = { bad: 'border-l-brick', doubt: 'border-l-ochre' }

/** Something to be read before going on, set apart from what it is about. */
export function Panel({
  tone,
  alert = true,
  className = '',
  id,
  children,
}: {
  tone: keyof typeof TONES
  /** Whether it is told as soon as it is there. */
  alert?: boolean
  className?: string
  id?: string | undefined
  children: ReactNode
}) {
  const box = useRef<HTMLDivElement>(null)
  useFault(box, alert)
  return (
    <div ref={box} id={id} className={`border-l-4 bg-white px-3 py-2 ${TONES[tone]} ${className}`}>
      {children}
    </div>
  )
}

/** What is doubtful, in a line. */
export function Doubt({ children }: { children: ReactNode }) {
  return (
    <p className="text-ochre">
      <span aria-hidden>△ </span>
      {children}
    </p>
  )
}
