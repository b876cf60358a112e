import { useId, type KeyboardEvent } from 'react'
import { FieldError } from './field-error'
import { Input } from './input'

interface Props {
  label: string
  hideLabel?: boolean
  value: string
  error?: string | undefined
  width?: string
  placeholder?: string
  type?: 'text' | 'time' | 'date' | 'datetime-local' | 'email' | 'password'
  autoComplete?: string
  autoFocus?: boolean
  inputMode?: 'text' | 'decimal'
  list?: string
  change: (text: string) => void
  /** For fields that are stored when they are left; those of a form are stored with it. */
  commit?: () => void
}

/** A text field of an editor that keeps the whole draft: it tells every key, and when it is left. */
export function Typed(props: Props) {
  const id = useId()
  const own = props.type !== undefined && props.type !== 'text'
  return (
    <span className="inline-flex max-w-full flex-col gap-1">
      <label htmlFor={id} className={props.hideLabel ? 'sr-only' : 'font-cond text-soft'}>
        {props.label}
      </label>
      <Input
        id={id}
        type={props.type ?? 'text'}
        className={props.width ?? 'w-24'}
        value={props.value}
        placeholder={props.placeholder}
        inputMode={props.inputMode ?? (own ? undefined : 'text')}
        list={props.list}
        autoComplete={props.autoComplete ?? 'off'}
        autoFocus={props.autoFocus}
        spellCheck={false}
        aria-invalid={props.error ? true : undefined}
        aria-describedby={props.error ? `${id}-error` : undefined}
        onChange={(event) => props.change(event.target.value)}
        onBlur={props.commit}
        onKeyDown={(event: KeyboardEvent) => event.key === 'Enter' && props.commit?.()}
      />
      {props.error && <FieldError id={`${id}-error`}>{props.error}</FieldError>}
    </span>
  )
}
