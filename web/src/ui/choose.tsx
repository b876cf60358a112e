import { X } from 'lucide-react'
import { useEffect, useRef, useState, type ReactNode } from 'react'
import { Button } from './button'
import { FieldError } from './field-error'
import { Radios } from './radios'
import { Select } from './select'
import { Tick } from './tick'

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
    place.current
      ?.querySelector<HTMLElement>('[aria-checked=true], input, button')
      ?.focus({ preventScroll: true })
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

/** What can be chosen from: a zone, a method, a class. */
type Item = { id?: string; name?: string }

interface SomeProps {
  label: string
  all: string
  these: string
  list: Item[]
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
      <Radios
        label={label}
        value={some ? 'some' : 'all'}
        choices={[
          ['all', all],
          ['some', these],
        ]}
        choose={(way) => {
          setOpen(way === 'some')
          if (way === 'all' && chosen !== null) put(null)
          if (way === 'some' && empty && chosen === null) put([])
        }}
      />
      {some && (
        <Many
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

/** From how many on only what is chosen is in sight, with a list to add from. */
const MANY = 8

/** Any number of things out of a list: boxes to tick, or chips with a list to search where there are many. */
export function Many({
  list,
  chosen,
  label,
  put,
}: {
  list: Item[]
  chosen: string[]
  label: string
  put: (chosen: string[]) => void
}) {
  const without = (id: string | undefined) => chosen.filter((other) => other !== id)
  if (list.length <= MANY)
    return (
      <span className="mt-1 flex max-w-xl flex-wrap gap-x-4 gap-y-1">
        {list.map(({ id, name }) => (
          <Tick
            key={id}
            label={`${label}: ${name}`}
            on={chosen.includes(id!)}
            change={(on) => put(on ? [...chosen, id!] : without(id))}
          >
            {name}
          </Tick>
        ))}
      </span>
    )
  return (
    <span className="mt-1 flex max-w-2xl flex-wrap items-center gap-1.5">
      {chosen.map((id) => {
        const name = list.find((item) => item.id === id)?.name ?? 'one that is gone'
        return (
          <span key={id} className="inline-flex items-center rounded-xs border border-edge bg-white pl-2">
            {name}
            <Button look="quiet" aria-label={`Remove ${name}: ${label}`} onClick={() => put(without(id))}>
              <X size={12} aria-hidden />
            </Button>
          </span>
        )
      })}
      <Select
        label={`Add: ${label}`}
        placeholder="Add …"
        value=""
        choices={list.filter(({ id }) => !chosen.includes(id!)).map(({ id, name }) => [id, name] as const)}
        choose={(id) => put([...chosen, id])}
      />
    </span>
  )
}
