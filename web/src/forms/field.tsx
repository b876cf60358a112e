import { useEffect, useId, useRef, type ReactNode } from 'react'
import { useField, type FieldSettings } from './use-field'
import { Conflict } from '../ui/conflict'
import { FieldError } from '../ui/field-error'
import { Input } from '../ui/input'

interface Props<D extends object> extends FieldSettings<D> {
  /** Shown to screen readers only. */
  hideLabel?: boolean
  placeholder?: string
  prefix?: ReactNode
  className?: string
  width?: string
  hint?: string
  autoFocus?: boolean
  inputMode?: 'text' | 'decimal'
  /** How the value that stands there now is shown in a conflict. */
  show?: (value: string) => string
  /** A problem found while typing, before anything is stored. */
  warning?: string | null
  inputId?: string
  /** A cell of a table: its border shows when it is pointed at, has the focus or is wrong. */
  cell?: boolean
}

/** A text field that stores itself. Problems, and edits from elsewhere, stand right below it. */
export function Field<D extends object>(props: Props<D>) {
  const field = useField(props)
  const made = useId()
  const id = props.inputId ?? made
  const show = props.show ?? ((value: string) => value || 'nothing')
  const error = field.error ?? (field.dirty ? props.warning : null)
  const conflict = field.theirs !== null
  const notes = [error && `${id}-error`, conflict && `${id}-conflict`, props.hint && `${id}-hint`]
  // When an edit has been stored or taken back, nothing is typed any more.
  const last = useRef(false)
  const edited = field.edit !== undefined
  useEffect(() => {
    if (last.current && !edited) props.typing?.(null)
    last.current = edited
  })
  return (
    <div className={`flex flex-col gap-1 ${props.className ?? ''}`}>
      <label htmlFor={id} className={props.hideLabel ? 'sr-only' : 'font-cond text-soft'}>
        {props.label}
      </label>
      <div className="flex items-center gap-1.5">
        {props.prefix && (
          <span aria-hidden className="text-soft">
            {props.prefix}
          </span>
        )}
        <Input
          id={id}
          bare={props.cell ?? false}
          className={`${props.cell ? 'cell' : ''} ${props.width ?? 'w-full'}`}
          value={field.text}
          placeholder={props.placeholder}
          inputMode={props.inputMode ?? 'text'}
          autoFocus={props.autoFocus}
          spellCheck={false}
          aria-invalid={error ? true : undefined}
          aria-describedby={notes.filter(Boolean).join(' ') || undefined}
          onChange={(event) => field.change(event.target.value)}
          onBlur={field.commit}
          onKeyDown={field.keys}
        />
      </div>
      {error && <FieldError id={`${id}-error`}>{error}</FieldError>}
      {conflict && (
        <Conflict id={`${id}-conflict`} mine={field.useMine} theirs={field.drop}>
          <p>
            Changed elsewhere meanwhile. There now: <b>{show(field.theirs!)}</b>. You typed:{' '}
            <b>{show(field.text)}</b>.
          </p>
        </Conflict>
      )}
      {props.hint && !error && (
        <p id={`${id}-hint`} className="text-soft">
          {props.hint}
        </p>
      )}
    </div>
  )
}
