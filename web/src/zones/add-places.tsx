import { Command } from 'cmdk'
import { useState } from 'react'
import type { Schemas, Zone } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useChoices, useGeography } from '../setup/queries'
import { useActs } from '../edits/acts'
import { counted, countryName, list } from '../ui/locale'

/** Names that begin with what was typed come first, then those with a word that does. */
function closeness(value: string, search: string): number {
  const name = value.toLowerCase()
  const typed = search.trim().toLowerCase()
  if (name.startsWith(typed)) return 1
  if (name.includes(` ${typed}`)) return 0.8
  return name.includes(typed) ? 0.5 : 0
}

type Draft = Schemas['AreaDraft']

/** Puts areas into a zone, whatever else is being done to it. */
export function useAddAreas() {
  const { send } = useWorkshop()
  const { act } = useActs()
  return (zone: Zone, areas: Draft[]) =>
    act(
      `/api/zones/${zone.id}`,
      `with ${JSON.stringify(areas)}`,
      `Add places to ${zone.name}`,
      (_, { lock_version = 0 }) =>
        send((to) =>
          to.POST('/api/zones/{id}/areas', {
            params: { path: { id: zone.id } },
            body: { lock_version, areas },
          }),
        ),
      zone,
    )
}

/** Adds countries to a zone: one by one, with its territories, or a group that becomes plain countries. */
export function AddPlaces({ zone }: { zone: Zone }) {
  const addAreas = useAddAreas()
  const { data: choices } = useChoices()
  const { data: geography } = useGeography()
  const [text, setText] = useState('')
  const areas = zone.areas
  const whole = (code: string) =>
    areas.some(
      (area) => area.kind === 'country' && area.country === code && !area.only.count && !area.except.count,
    )
  const world = areas.some((area) => area.kind === 'world')
  const countries = (codes: string[]): Draft[] =>
    codes.filter((code) => !whole(code)).map((country) => ({ kind: 'country', country }))
  const add = (drafts: Draft[]) => {
    setText('')
    if (drafts.length) addAreas(zone, drafts)
  }
  const options: { key: string; name: string; note: string; drafts: Draft[] }[] = [
    ...(world
      ? []
      : [
          {
            key: 'all other countries world',
            name: 'All other countries',
            note: '',
            drafts: [{ kind: 'world' as const }],
          },
        ]),
    ...(choices?.countries ?? []).flatMap(({ code, name }) => {
      const territories = geography?.territories[code] ?? []
      const plain = {
        key: `${name} ${code}`,
        name,
        note: whole(code) ? 'again, to narrow it' : '',
        drafts: [{ kind: 'country' as const, country: code }],
      }
      const also = countries([code, ...territories])
      return territories.length && also.length > 1
        ? [
            plain,
            {
              key: `${name} ${code} with territories`,
              name: `${name} with its territories`,
              note: list(territories.map(countryName)),
              drafts: also,
            },
          ]
        : [plain]
    }),
    ...(geography?.groups ?? []).map((group) => ({
      key: `${group.name} group`,
      name: group.name,
      note: `becomes ${counted(countries(group.countries).length, 'country', 'countries')}`,
      drafts: countries(group.countries),
    })),
  ].filter(({ drafts }) => drafts.length > 0)
  return (
    <Command label={`Add a country to ${zone.name}`} className="relative w-80" filter={closeness}>
      <Command.Input
        className="field w-full"
        placeholder="Add a country, the EU, Europe …"
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
        <Command.Empty className="px-2 py-2 text-soft">No country is called “{text}”.</Command.Empty>
        {options.map(({ key, name, note, drafts }) => (
          <Command.Item
            key={key}
            value={key}
            onSelect={() => add(drafts)}
            className="px-2 py-1 data-[selected=true]:bg-ink data-[selected=true]:text-white"
          >
            {name}
            {note && <span className="block truncate text-xs opacity-80">{note}</span>}
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  )
}
