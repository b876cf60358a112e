import { Command } from 'cmdk'
import { X } from 'lucide-react'
import { useState } from 'react'
import type { Area, Zone } from '../api/client'
import { useChoices } from '../api/setup'
import { countryName } from '../ui/format'
import { useEdits } from './edits'

/** Names that begin with what was typed come first, then those with a word that does. */
function closeness(value: string, search: string): number {
  const name = value.toLowerCase()
  const typed = search.trim().toLowerCase()
  if (name.startsWith(typed)) return 1
  if (name.includes(` ${typed}`)) return 0.8
  return name.includes(typed) ? 0.5 : 0
}

export function areaName(area: Area): string {
  return area.kind === 'world' ? 'Everywhere else' : countryName(area.country ?? '')
}

/** The countries of a zone: type to find one, Enter adds it. */
export function CountryPicker({ zone }: { zone: Zone }) {
  const { setAreas } = useEdits()
  const { data: choices } = useChoices()
  const [text, setText] = useState('')
  const areas = zone.areas ?? []
  const has = (area: Area) =>
    areas.some((other) => other.kind === area.kind && other.country === area.country)
  const options: { area: Area; name: string; words: string }[] = [
    { area: { kind: 'world' as const }, name: 'Everywhere else', words: 'everywhere else world' },
    ...(choices?.countries ?? []).map(({ code, name }) => ({
      area: { kind: 'country' as const, country: code },
      name,
      words: `${name} ${code}`,
    })),
  ].filter(({ area }) => !has(area))
  const add = (area: Area) => {
    setText('')
    void setAreas(zone, [...areas, area])
  }
  return (
    <div className="flex w-full flex-col gap-1.5">
      <span className="font-cond text-soft">Covers</span>
      <ul className="flex flex-wrap gap-1.5" aria-label={`Places in ${zone.name}`}>
        {areas.map((area) => (
          <li
            key={area.country ?? 'world'}
            className="inline-flex items-center border border-edge bg-white pl-2"
          >
            {areaName(area)}
            <button
              type="button"
              className="grid size-[26px] place-items-center"
              aria-label={`Take ${areaName(area)} out of ${zone.name}`}
              onClick={() =>
                void setAreas(
                  zone,
                  areas.filter((other) => other !== area),
                )
              }
            >
              <X size={12} aria-hidden />
            </button>
          </li>
        ))}
        {areas.length === 0 && <li className="text-soft">Nothing yet: no address lands here.</li>}
      </ul>
      <Command label={`Add a country to ${zone.name}`} className="relative w-72" filter={closeness}>
        <Command.Input
          className="field w-full"
          placeholder="Add a country …"
          value={text}
          onValueChange={setText}
          onKeyDown={(event) => {
            if (event.key === 'Escape' && text) {
              event.stopPropagation()
              setText('')
            }
          }}
        />
        <Command.List
          hidden={!text}
          className="absolute inset-x-0 top-full z-20 max-h-56 overflow-auto border border-ink bg-white"
        >
          <Command.Empty className="px-2 py-2 text-soft">
            No country is called “{text}”, or it is in the zone already.
          </Command.Empty>
          {options.map(({ area, name, words }) => (
            <Command.Item
              key={words}
              value={words}
              onSelect={() => add(area)}
              className="px-2 py-1 data-[selected=true]:bg-ink data-[selected=true]:text-white"
            >
              {name}
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </div>
  )
}
