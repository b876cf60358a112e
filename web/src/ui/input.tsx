import type { ComponentProps } from 'react'

/** A line of text with the frame of a field; `bare` without it. What is stored as it stands is a {@link Field}. */
export function Input({ bare, className = '', ...rest }: ComponentProps<'input'> & { bare?: boolean }) {
  return <input autoComplete="off" {...rest} className={`${bare ? '' : 'field'} ${className}`} />
}

/** Several lines of text. */
export function TextArea({ className = '', ...rest }: ComponentProps<'textarea'>) {
  return <textarea {...rest} className={`field ${className}`} />
}
