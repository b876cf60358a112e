import { useMemo } from 'react'
import { Link } from 'react-router'
import type { Geography, Zone } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { awake, useFindings, useGeography } from '../setup/queries'
import { useNear } from '../ui/use-near'
import { useBenchResult, usePreview } from '../cart/result'
import { type Formats } from '../ui/format'
import { counted } from '../ui/locale'
import { AddRate } from './add-rate'
import type { Axis } from '../plans/axis'
import type { Piece } from '../plans/lines'
import { areaSentence } from '../words/zones'
import { RateRow } from './rate-row'
import { lazily } from '../ui/lazily'
import { Button } from '../ui/button'
import { Badge } from '../ui/said'

const ZoneEditor = lazily(async () => (await import('../zones/zone-editor')).ZoneEditor)

// Up to so many rates all are drawn at once; of more, those that come near.
const FEW = 60
// About how high a rate is, and the button below them, in pixels.
const ROW_HEIGHT = 44
const ADD_HEIGHT = 32

export interface Opened {
  kind: 'zone' | 'rate'
  id: string
  field: string | null
}

interface Props {
  zone: Zone
  index: number
  axis: Axis
  lines: Record<string, Piece[]> | undefined
  formats: Formats
  dearest: number
  opened: Opened | null
  toggle: (kind: 'zone' | 'rate', id: string) => void
}

function coverage(zone: Zone, geography: Geography | undefined): string {
  const names = zone.areas.map((area) => areaSentence(area, geography))
  const separator = zone.areas.some((area) => area.only.count || area.except.count || area.regions.length)
    ? '; '
    : ', '
  return names.length > 6
    ? `${names.slice(0, 5).join(separator)} and ${names.length - 5} more`
    : names.join(separator)
}

/** One zone across the Board; the one in which the bench cart lands is marked in ink. */
export function ZoneBand({ zone, index, axis, lines, formats, dearest, opened, toggle }: Props) {
  const { setup } = useWorkshop()
  const { bench, before } = useBenchResult()
  const { preview } = usePreview()
  const here = bench?.quote.landing?.zone === zone.id
  const rates = useMemo(() => setup.rates.filter((rate) => rate.zone === zone.id), [setup.rates, zone.id])
  const free = setup.methods.filter((method) => !rates.some((rate) => rate.method === method.id))
  const { data: geography } = useGeography()
  const { data: found } = useFindings(setup.revision)
  const findings = awake(found?.findings).filter(
    (finding) => finding.zone === zone.id && finding.harm !== 'note',
  )
  const covered = useMemo(() => coverage(zone, geography), [zone, geography])
  const editing = opened?.kind === 'zone' && opened.id === zone.id
  const [section, near] = useNear<HTMLElement>(
    setup.rates.length <= FEW ||
      editing ||
      rates.some(({ id }) => opened?.kind === 'rate' && opened.id === id),
  )
  const quotes = bench?.board.find((row) => row.zone === zone.id)?.methods
  return (
    <section
      ref={section}
      aria-label={`Zone ${zone.name}`}
      aria-current={here ? 'location' : undefined}
      className={`scroll-mt-9 border-t border-l-[5px] border-t-edge py-2 pr-3 pl-2 ${here ? 'border-l-ink bg-white' : 'border-l-transparent'}`}
    >
      <header className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-lg">
          <Button
            look="bare"
            className="rounded-xs text-left hover:underline"
            aria-expanded={editing}
            onClick={() => toggle('zone', zone.id)}
          >
            {zone.name}
          </Button>
        </h2>
        <span className="text-soft">{covered === zone.name ? '' : covered || 'covers nothing yet'}</span>
        {here && (
          <span className="border border-ink px-1.5 text-xs font-semibold">the bench cart goes here</span>
        )}
        {findings.length > 0 && (
          <Link
            className="inline-flex min-h-[24px] items-center px-1 text-ochre underline underline-offset-2"
            to={`/zones#zone=${zone.id}`}
          >
            {counted(findings.length, 'finding')}
          </Link>
        )}
        {!zone.active && (
          <Badge>{rates.length ? 'off: no address lands here' : 'off until it has a rate'}</Badge>
        )}
      </header>
      {editing && <ZoneEditor zone={zone} index={index} rates={rates.length} />}
      {rates.length === 0 && zone.active && (
        <p className="mt-1 text-ochre">No method yet: a shopper whose address lands here can’t order.</p>
      )}
      {!near && rates.length > 0 && (
        <div aria-hidden style={{ height: rates.length * ROW_HEIGHT + ADD_HEIGHT }} />
      )}
      <ul>
        {(near ? rates : []).map((rate) => {
          const quote = quotes?.find((found) => found.rate === rate.id)
          return (
            <RateRow
              key={rate.id}
              rate={rate}
              method={setup.methods.find((method) => method.id === rate.method)!}
              siblings={rates}
              axis={axis}
              pieces={lines?.[rate.id]}
              formats={formats}
              dearest={dearest}
              open={opened?.kind === 'rate' && opened.id === rate.id}
              focus={opened?.kind === 'rate' && opened.id === rate.id ? opened.field : null}
              quote={quote}
              before={quote && before(quote)}
              typed={preview !== null && 'rate' in preview && preview.rate === rate.id}
              toggle={toggle}
            />
          )
        })}
      </ul>
      {near && <AddRate zone={zone} methods={free} formats={formats} />}
    </section>
  )
}
