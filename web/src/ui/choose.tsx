import { useEffect, useRef, useState, type ReactNode } from 'react'
import { FieldError } from './field'

export function Question({
  title,
  focused,
  children,
}: {
  title: string
  focused?: boolean
  children: ReactNode
}) {
  const place = useRef<HTMLFieldSetElement>(null)
  useEffect(() => {
    if (!focused) return
    place.current?.scrollIntoView({ block: 'center' })
    place.current?.querySelector<HTMLElement>('input:checked, input, select')?.focus({ preventScroll: true })
  }, [focused])
  return (
    <fieldset ref={place} className="border-t border-hair pt-2">
      <legend className="sr-only">{title}</legend>
      <h3 aria-hidden className="mb-1 text-base">
        {title}
      </h3>
      {children}
    </fieldset>
  )
}

export function Choice({
  name,
  on,
  choose,
  label,
}: {
  name: string
  on: boolean
  choose: () => void
  label: string
}) {
  return (
    <label className="flex items-baseline gap-2">
      <input type="radio" name={name} checked={on} onChange={choose} /> {label}
    </label>
  )
}

interface SomeProps {
  label: string
  all: string
  these: string
  list: { id?: string; name?: string }[]
  chosen: string[] | null
  put: (chosen: string[] | null) => void
  error: string | undefined
  /** Whether choosing none of them says something. */
  empty?: boolean
}

/** All of a list, or some of it. */
export function Some({ label, all, these, list, chosen, put, error, empty }: SomeProps) {
  const [open, setOpen] = useState(false)
  const some = chosen !== null || open
  return (
    <fieldset>
      <legend className="font-cond text-soft">{label}</legend>
      <span className="flex gap-4">
        <label className="flex items-baseline gap-1.5">
          <input
            type="radio"
            checked={!some}
            onChange={() => {
              setOpen(false)
              if (chosen !== null) put(null)
            }}
          />{' '}
          {all}
        </label>
        <label className="flex items-baseline gap-1.5">
          <input
            type="radio"
            checked={some}
            onChange={() => {
              setOpen(true)
              if (empty && chosen === null) put([])
            }}
          />{' '}
          {these}
        </label>
      </span>
      {some && (
        <Boxes
          list={list}
          chosen={chosen ?? []}
          label={label}
          put={(next) => put(next.length || empty ? next : null)}
        />
      )}
      {error && <FieldError>{error}</FieldError>}
    </fieldset>
  )
}

export function Boxes({
  list,
  chosen,
  label,
  put,
}: {
  list: { id?: string; name?: string }[]
  chosen: string[]
  label: string
  put: (chosen: string[]) => void
}) {
  return (
    <span className="mt-1 flex max-w-xl flex-wrap gap-x-4 gap-y-1">
      {list.map(({ id, name }) => (
        <label key={id} className="flex items-baseline gap-1.5">
          <input
            type="checkbox"
            aria-label={`${label}: ${name}`}
            checked={chosen.includes(id!)}
            onChange={(event) =>
              put(event.target.checked ? [...chosen, id!] : chosen.filter((other) => other !== id))
            }
          />{' '}
          {name}
        </label>
      ))}
    </span>
  )
}
