import type { ReactNode } from 'react'
import { Fault } from './alerts'

/** What is wrong with a field, right below it. */
export function FieldError({ id, children }: { id?: string; children: ReactNode }) {
  return (
    <p id={id} data-fault className="flex gap-1.5 font-medium text-brick">
      <span aria-hidden>▲</span>
      <Fault>{children}</Fault>
    </p>
  )
}
