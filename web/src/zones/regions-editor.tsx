import { useState } from 'react'
import type { Area, Zone } from '../api/client'
import { useGeography } from '../setup/queries'
import { useEditedArea } from '../edits/edited'
import { useWhole } from '../edits/whole'
import { FieldError } from '../ui/field-error'
import { placeName } from '../ui/locale'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'
import { Fold } from '../ui/fold'
import { Input } from '../ui/input'

/** Chooses regions of a country, with their types told apart; none chosen is the whole country. */
export function RegionsEditor({ zone, area }: { zone: Zone; area: Area }) {
  const { data: geography } = useGeography()
  const edited = useEditedArea(zone, area)
  const regionsEdit = useWhole(edited, 'regions', `Regions in ${zone.name}`, {
    read: (there) => there.regions,
    write: (typed) => ({ regions: typed }),
  })
  const chosen = new Set(regionsEdit.shown)
  const setChosen = (codes: Iterable<string>) => regionsEdit.change(() => [...codes])
  const [text, setText] = useState('')
  const country = area.country ?? ''
  const regions = geography?.regions[country] ?? []
  const types = [...new Set(regions.map(({ type }) => type))]
  const shown = regions.filter(({ name, code }) =>
    `${name} ${code}`.toLowerCase().includes(text.trim().toLowerCase()),
  )
  const dirty = chosen.size !== area.regions.length || area.regions.some((code) => !chosen.has(code))
  const take = (codes: string[]) => setChosen(new Set([...chosen, ...codes]))
  const toggle = (code: string) => {
    const next = new Set(chosen)
    if (!next.delete(code)) next.add(code)
    setChosen(next)
  }
  const ofType = (type: string) => regions.filter((region) => region.type === type).map(({ code }) => code)
  return (
    <Fold
      open={area.regions.length > 0}
      title={`Regions of ${placeName(country)}: ${chosen.size ? `${chosen.size} chosen` : 'all of them'}`}
    >
      <div className="flex flex-wrap gap-1.5 py-1">
        {country === 'US' && (
          <Button onClick={() => take([...ofType('state'), ...ofType('district')])}>
            The 50 states and D.C.
          </Button>
        )}
        {types.length > 1 &&
          types.map((type) => (
            <Button key={type} onClick={() => take(ofType(type))}>
              All {ofType(type).length}: {type}
            </Button>
          ))}
        <Button disabled={chosen.size === 0} onClick={() => setChosen([])}>
          None
        </Button>
      </div>
      {regions.length > 12 && (
        <Input
          className="my-1 w-64"
          aria-label={`Find a region of ${placeName(country)}`}
          placeholder="Find a region …"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      )}
      <ul
        className="grid max-h-56 grid-cols-2 gap-x-6 overflow-y-auto xl:grid-cols-3"
        tabIndex={0}
        aria-label={`Regions of ${placeName(country)}`}
      >
        {shown.map((region) => (
          <li key={region.code}>
            <Tick on={chosen.has(region.code)} change={() => toggle(region.code)}>
              <span>
                {region.name} <span className="text-xs text-soft">{region.type}</span>
              </span>
            </Tick>
          </li>
        ))}
      </ul>
      <div className="flex items-center gap-3 py-1">
        <Button className="border-ink font-semibold" disabled={!dirty} onClick={() => regionsEdit.commit()}>
          {chosen.size ? `Save ${chosen.size} of ${regions.length} regions` : 'Save the whole country'}
        </Button>
        {regionsEdit.problem && <FieldError>{regionsEdit.problem.message}</FieldError>}
      </div>
    </Fold>
  )
}
