import { X } from 'lucide-react'
import { useState } from 'react'
import type { Schemas, Zone } from '../api/client'
import { useChoices, useGeography } from '../setup/queries'
import { FieldError } from '../ui/field-error'
import { countryName } from '../ui/locale'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

export type AreaDocument = Schemas['AreaDocument']

interface Props {
  /** For labels: "Part of the zone", "Column 2". */
  label: string
  areas: AreaDocument[]
  zone: Zone | undefined
  change: (areas: AreaDocument[]) => void
  /** What is wrong with the areas, by pointers below them: "/0/only/3". */
  errorAt: (pointer: string) => string | undefined
}

const LISTS = ['regions', 'only'] as const

function listOf(text: string): string[] {
  return text
    .split(/[,;\n]/)
    .map((item) => item.trim())
    .filter(Boolean)
}

/** The same area with another list; without regions it is the whole country. */
function withList(area: AreaDocument, field: (typeof LISTS)[number], items: string[]): AreaDocument {
  const next = { ...area, [field]: items }
  if (!items.length) delete next[field]
  return { ...next, kind: next.regions?.length ? 'regions' : 'country' }
}

/** A part of a zone: some of its countries, perhaps only regions or postcodes of them. */
export function PartPlaces({ label, areas, zone, change, errorAt }: Props) {
  const { data: choices } = useChoices()
  const { data: geography } = useGeography()
  const own = [...new Set((zone?.areas ?? []).flatMap(({ country }) => country ?? []))]
  const world = own.length === 0 || (zone?.areas ?? []).some(({ kind }) => kind === 'world')
  const all = world ? (choices?.countries ?? []).map(({ code }) => code) : own
  const free = all.filter((code) => !areas.some(({ country }) => country === code))
  const problems = areas.flatMap((area, at) => [
    errorAt(`/${at}`),
    ...LISTS.flatMap((field) => [
      errorAt(`/${at}/${field}`),
      ...(area[field] ?? []).map((item, index) => {
        const problem = errorAt(`/${at}/${field}/${index}`)
        return problem && `“${item}”: ${problem}`
      }),
    ]),
  ])
  return (
    <div className="flex flex-col gap-1">
      {areas.map((area, at) => {
        const name = countryName(area.country ?? '')
        const set = (next: AreaDocument) => change(areas.map((other, index) => (index === at ? next : other)))
        return (
          <span key={area.country ?? at} className="flex flex-wrap items-center gap-2">
            <span className="min-w-24 font-medium">{name}</span>
            {(geography?.regions[area.country ?? ''] ?? []).length > 0 && (
              <List
                label={`${label}: only these regions of ${name}`}
                placeholder="all regions"
                width="w-32"
                items={area.regions ?? []}
                change={(items) => set(withList(area, 'regions', items))}
              />
            )}
            <List
              label={`${label}: only these postcodes of ${name}`}
              placeholder="all postcodes"
              width="w-64"
              items={area.only ?? []}
              change={(items) => set(withList(area, 'only', items))}
            />
            <Button
              look="quiet"
              className="px-1"
              aria-label={`${label}: without ${name}`}
              onClick={() => change(areas.filter((_, index) => index !== at))}
            >
              <X size={13} aria-hidden />
            </Button>
          </span>
        )
      })}
      {free.length > 0 && (
        <Select
          label={`${label}: add a country`}
          className="self-start"
          placeholder={areas.length ? 'and …' : 'Only in …'}
          value={''}
          choices={free.map((code) => [code, countryName(code)] as const)}
          choose={(value) => change([...areas, { kind: 'country', country: value }])}
        />
      )}
      {problems
        .filter((problem) => problem !== undefined)
        .map((problem) => (
          <FieldError key={problem}>{problem}</FieldError>
        ))}
    </div>
  )
}

/** A list in one field: what is typed stays until it is taken over. */
function List({
  label,
  placeholder,
  width,
  items,
  change,
}: {
  label: string
  placeholder: string
  width: string
  items: string[]
  change: (items: string[]) => void
}) {
  const [text, setText] = useState<string | null>(null)
  const take = () => {
    if (text === null) return
    if (listOf(text).join() !== items.join()) change(listOf(text))
    setText(null)
  }
  return (
    <Input
      className={`${width}`}
      aria-label={label}
      placeholder={placeholder}
      value={text ?? items.join(', ')}
      onChange={(event) => setText(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => event.key === 'Enter' && take()}
    />
  )
}
