import { byId } from '../api/by-id'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Tabs } from 'radix-ui'
import { useMemo, useState, type ReactNode } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { api, answerOf, type CoverageMap, type Zone } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { awake, useFindings, useGeography } from '../setup/queries'
import { AddZone } from './add-zone'
import { useActs } from '../edits/acts'
import { ZoneEditor } from './zone-editor'
import { useBenchResult } from '../cart/result'
import { alphabetically, counted, countryName, list } from '../ui/locale'
import { useAddAreas } from './add-places'
import { FindingsList } from '../findings/findings-list'
import { Landing } from './landing'
import { toneOf } from '../map/tones'
import { areaSentence } from '../words/zones'
import { WorldMap } from '../map/world-map'
import { ZonesCsv } from './zones-csv'
import { Answer } from '../ui/answer'
import { Table } from '../ui/table'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'
import { Finder, useFinder } from '../ui/finder'
import { Sorted, useSortedRow } from '../ui/sorted'

/** Where the shop ships: the zones in their order, on the map and in words. */
export function Zones() {
  const { setup } = useWorkshop()
  const { hash } = useLocation()
  const navigate = useNavigate()
  const { data: geography } = useGeography()
  const addAreas = useAddAreas()
  const { data: coverage } = useQuery({
    queryKey: ['coverage', setup.revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/coverage', { signal })),
    placeholderData: keepPreviousData,
  })
  const audit = useFindings(setup.revision)
  const findings = (audit.data?.findings ?? []).filter((finding) => finding.zone !== null)
  const id = new URLSearchParams(hash.slice(1)).get('zone')
  const index = setup.zones.findIndex((zone) => zone.id === id)
  const zone = setup.zones[index]
  const choose = (next: Zone | null) =>
    void navigate(next ? `/zones#zone=${next.id}` : '/zones', { replace: true })
  const pick = (country: string) => {
    if (!zone) return
    const there = zone.areas.some((area) => area.country === country && area.kind === 'country')
    if (!there) addAreas(zone, [{ kind: 'country', country }])
  }
  const own = findings.filter((finding) => finding.zone === zone?.id)
  return (
    <div className="px-4 pt-3 pb-10">
      <h1 className="mb-2 text-2xl">Zones</h1>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-5 xl:grid-cols-[minmax(0,1fr)_19rem] lg:grid-cols-[minmax(0,1fr)_17rem]">
        <WorldMap setup={setup} geography={geography} coverage={coverage} pick={zone ? pick : null} />
        <ZoneList chosen={zone} choose={choose} findings={awake(findings).map((finding) => finding.zone!)} />
      </div>
      {zone && (
        <section aria-label={`Zone ${zone.name}`} className="mt-2">
          <h2 className="text-lg">{zone.name}</h2>
          <ZoneEditor
            key={zone.id}
            zone={zone}
            index={index}
            rates={setup.rates.filter((rate) => rate.zone === zone.id).length}
          />
          {own.length > 0 && <FindingsList findings={own} named={false} />}
        </section>
      )}
      <Tabs.Root defaultValue="landing" className="mt-5">
        <Tabs.List aria-label="About the zones" className="flex gap-1 border-b border-ink">
          <Tab value="landing">Which zone is it in?</Tab>
          <Tab value="findings">Findings: {audit.data ? awake(findings).length : '…'}</Tab>
          <Tab value="table">All countries</Tab>
          <Tab value="csv">CSV</Tab>
        </Tabs.List>
        <Panel value="landing">
          <Landing />
        </Panel>
        <Panel value="findings">
          <Answer of={audit}>
            {() =>
              findings.length ? (
                <FindingsList findings={findings} named />
              ) : (
                <p>Nothing found: no ties, no holes, no dead clauses.</p>
              )
            }
          </Answer>
        </Panel>
        <Panel value="table">
          <CountryTable coverage={coverage} />
        </Panel>
        <Panel value="csv">
          <ZonesCsv />
        </Panel>
      </Tabs.Root>
    </div>
  )
}

function Tab({ value, children }: { value: string; children: ReactNode }) {
  return (
    <Tabs.Trigger
      value={value}
      className="border-b-4 border-transparent px-3 py-1.5 font-cond text-base text-soft data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink"
    >
      {children}
    </Tabs.Trigger>
  )
}

function Panel({ value, children }: { value: string; children: ReactNode }) {
  return (
    <Tabs.Content value={value} className="py-3">
      {children}
    </Tabs.Content>
  )
}

/** The zones in the order in which they win among equals; dragged, or moved with Alt and the arrow keys. */
function ZoneList({
  chosen,
  choose,
  findings,
}: {
  chosen: Zone | undefined
  choose: (zone: Zone | null) => void
  findings: string[]
}) {
  const { setup } = useWorkshop()
  const { bench } = useBenchResult()
  const { data: geography } = useGeography()
  const acts = useActs()
  const finder = useFinder()
  const move = (id: string, name: string, by: number) => acts.move('zones', id, name, by)
  const places = useMemo(
    () =>
      new Map(
        setup.zones.map(({ id, areas }) => [
          id,
          areas.map((area) => areaSentence(area, geography)).join('; '),
        ]),
      ),
    [setup.zones, geography],
  )
  const found = setup.zones.filter(({ id, name }) => finder.finds(`${name} ${places.get(id)}`))
  return (
    <div>
      <Finder
        of={finder}
        label="Find a zone"
        placeholder="find by name or country"
        className="mb-1.5 w-full"
        count={setup.zones.length}
      />
      <Sorted items={setup.zones} move={move}>
        <ol aria-label="Zones in their order" className="relative max-h-[26rem] overflow-y-auto">
          {found.map((zone) => (
            <ZoneRow
              key={zone.id}
              zone={zone}
              index={setup.zones.indexOf(zone)}
              chosen={chosen?.id === zone.id}
              choose={choose}
              here={bench?.quote.landing?.zone === zone.id}
              findings={findings.filter((id) => id === zone.id).length}
              places={places.get(zone.id) ?? ''}
              move={(by) => move(zone.id, zone.name ?? '', by)}
            />
          ))}
        </ol>
      </Sorted>
      {found.length === 0 && (
        <p className="py-2 text-soft">
          {setup.zones.length > 0
            ? 'No zone is called that.'
            : 'There are no zones yet. Name the first: it says where you ship.'}
        </p>
      )}
      <AddZone added={choose} />
    </div>
  )
}

interface ZoneRowProps {
  zone: Zone
  index: number
  chosen: boolean
  choose: (zone: Zone | null) => void
  /** Whether the bench cart goes there. */
  here: boolean
  findings: number
  places: string
  move: (by: -1 | 1) => void
}

function ZoneRow({ zone, index, chosen, choose, here, findings, places, move }: ZoneRowProps) {
  const { row, grip } = useSortedRow(zone)
  return (
    <li
      {...row}
      className={`flex items-center gap-1.5 border-t border-l-[5px] border-t-hair py-1 pr-1 ${here ? 'border-l-ink' : 'border-l-transparent'} ${chosen ? 'bg-white' : 'bg-paper'}`}
    >
      {grip}
      <span
        aria-hidden
        className="size-3.5 shrink-0 border border-edge"
        style={{ background: toneOf(index) }}
      />
      <Button
        look="bare"
        className="min-w-0 flex-1 text-left"
        aria-current={chosen || undefined}
        onClick={() => choose(chosen ? null : zone)}
        onKeyDown={(event) => {
          if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return
          event.preventDefault()
          move(event.key === 'ArrowUp' ? -1 : 1)
        }}
        data-tip="Alt with an arrow key moves it"
      >
        <span className="opens">{zone.name}</span>
        {!zone.active && <span className="text-soft"> · off</span>}
        {here && <span className="sr-only"> (the bench cart goes here)</span>}
        {findings > 0 && (
          <span className="whitespace-nowrap text-ochre"> · {counted(findings, 'finding')}</span>
        )}
        <span className="block truncate text-xs text-soft">{places || 'covers nothing yet'}</span>
      </Button>
    </li>
  )
}

/** What the map says, in words. */
function CountryTable({ coverage }: { coverage: CoverageMap | undefined }) {
  const { setup } = useWorkshop()
  const { data: geography } = useGeography()
  const codes = Object.values(geography?.numbers ?? {}).sort((a, b) =>
    alphabetically(countryName(a), countryName(b)),
  )
  const name = (id: string) => byId(setup.zones, id)?.name ?? ''
  const served = { wholly: 'wholly', partly: 'in part', none: 'not at all' }
  const rows = codes.map((code) => {
    const found = coverage?.countries[code]
    const zones = found?.zones ?? (coverage?.world ? [coverage.world] : [])
    return { code, zones, how: found ? found.served : zones.length ? ('wholly' as const) : ('none' as const) }
  })
  const [all, setAll] = useState(false)
  const shown = all ? rows : rows.filter(({ zones }) => zones.length > 0)
  return (
    <>
      <Tick className="pb-2" on={all} change={(on) => setAll(on)}>
        Show countries in no zone too
      </Tick>
      <Table className="w-full max-w-2xl">
        <thead>
          <tr className="text-left font-cond text-soft">
            <th className="font-medium">Country</th>
            <th className="font-medium">Served</th>
            <th className="font-medium">By</th>
          </tr>
        </thead>
        <tbody>
          {shown.map(({ code, zones, how }) => (
            <tr key={code} className="border-t border-hair">
              <td className="py-0.5">{countryName(code)}</td>
              <td className={how === 'wholly' ? '' : 'text-ochre'}>{served[how]}</td>
              <td>{list(zones.map(name)) || '–'}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  )
}
