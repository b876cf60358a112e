import type { ComponentProps } from 'react'

/** `framed` stands on its own, `quiet` goes with what it is about, `opens` is the name of a
 * thing in a list, `bare` is a text or a drawing that can be pressed. */
const LOOKS = { framed: 'button', quiet: 'quiet', opens: 'opens', bare: '' }

export function Button({
  look = 'framed',
  className = '',
  ...rest
}: ComponentProps<'button'> & { look?: keyof typeof LOOKS }) {
  return <button type="button" {...rest} className={`${LOOKS[look]} ${className}`} />
}
