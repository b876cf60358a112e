import { Minus, Plus } from 'lucide-react'
import { ToggleGroup } from 'radix-ui'
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react'
import { useLocation } from 'react-router'
import { useWorkshop } from '../edits/workshop'
import { useBenchResult } from '../cart/result'
import { formatsOf } from '../ui/format'
import { AddZone } from '../zones/add-zone'
import { useBenchCart } from '../cart/cart'
import { AxisRuler, axisOf, MEASURES, MEASURE_WORDS, standOf, type MeasureName } from '../plans/axis'
import { useLines } from '../plans/lines'
import { ROW } from './rate-row'
import { ZoneBand, type Opened } from './zone-band'
import { Select } from '../ui/select'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'
import { Finder, useFinder } from '../ui/finder'
import { useOneStop } from '../ui/one-stop'

/** `#rate=ID&field=plan` opens that rate's editor at that field: this is where reckonings lead. */
function openedBy(hash: string): Opened | null {
  const query = new URLSearchParams(hash.slice(1))
  const rate = query.get('rate')
  const zone = query.get('zone')
  if (rate) return { kind: 'rate', id: rate, field: query.get('field') }
  return zone ? { kind: 'zone', id: zone, field: null } : null
}

/** The overview: every zone, the methods in it, their strips, and what the bench cart pays on each. */
export function Board() {
  const { setup, compareTo, compared, settle } = useWorkshop()
  const { bench } = useBenchResult()
  const [measure, setMeasure] = useState<MeasureName>('value')
  const { hash, key } = useLocation()
  // What the merchant opened here holds until an address leads elsewhere.
  const [chosen, setChosen] = useState<{ key: string; opened: Opened | null } | null>(null)
  const opened = chosen?.key === key ? chosen.opened : openedBy(hash)
  const open = (next: Opened | null) => setChosen({ key, opened: next })
  // The rows keep the same function, whatever is open.
  const now = useRef({ opened, open })
  useEffect(() => {
    now.current = { opened, open }
  })
  const toggle = useCallback((kind: 'zone' | 'rate', id: string) => {
    const { opened: there, open: show } = now.current
    show(there?.kind === kind && there.id === id ? null : { kind, id, field: null })
  }, [])
  useEffect(() => {
    const next = openedBy(hash)
    if (!next) return
    const id = next.kind === 'rate' ? `rate-${next.id}-${next.field ?? 'plan'}` : `zone-${next.id}-name`
    document.getElementById(id)?.focus()
  }, [hash, key])
  const formats = formatsOf(setup.store)
  const { cart } = useBenchCart()
  const [line, setLine] = useState(0)
  const [zoom, setZoom] = useState(1)
  const [onlyHere, setOnlyHere] = useState(false)
  const finder = useFinder()
  const strips = useOneStop<HTMLDivElement>('[data-strip]')
  const chosenLine = line < cart.lines.length ? line : 0
  const stand = standOf(measure, bench?.quote.measures, cart.lines[chosenLine]?.quantity, formats)
  const store = setup.store
  const [at, text] = [stand?.at ?? null, stand?.text]
  const { weight_unit: unit = '', currency_exponent: exponent = 2 } = store
  const axis = useMemo(
    () => axisOf(measure, text === undefined ? null : { at, text }, zoom, formats, unit, exponent),
    [measure, at, text, zoom, formats, unit, exponent],
  )
  const lines = useLines(measure, useDeferredValue(axis.most), chosenLine)
  const prices = Object.values(lines ?? {}).flatMap((pieces) =>
    pieces.flatMap(({ price, last }) => [Number(price ?? 0), Number(last ?? 0)]),
  )
  const dearest = Math.max(0, ...prices)
  const here = bench?.quote.landing?.zone
  const zones = setup.zones.filter(
    (zone) =>
      (!onlyHere || zone.id === here || (opened?.kind === 'zone' && opened.id === zone.id)) &&
      finder.finds(zone.name ?? ''),
  )
  return (
    <div className="px-4 pt-3 pb-10">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h1 className="text-2xl">Board</h1>
        {compareTo !== null && compared && (
          <p className="flex items-baseline gap-2 text-soft">
            <span>
              With your edit, before → after: <b className="text-ink">{compared}</b>
            </span>
            <Button look="bare" className="underline" onClick={settle}>
              show only the new prices
            </Button>
          </p>
        )}
        <span className="ml-auto flex flex-wrap items-center gap-2">
          <Finder
            of={finder}
            label="Filter zones by name"
            placeholder="any zone"
            className="w-32"
            count={setup.zones.length}
            read={6}
          />
          <Tick on={onlyHere} disabled={!here} change={(on) => setOnlyHere(on)}>
            only the bench’s zone
          </Tick>
          <span id="along" className="font-cond text-soft">
            along
          </span>
          <ToggleGroup.Root
            type="single"
            aria-labelledby="along"
            className="flex border border-ink"
            value={measure}
            onValueChange={(value) => value && setMeasure(value as MeasureName)}
          >
            {MEASURES.map((name) => (
              <ToggleGroup.Item
                key={name}
                value={name}
                className="px-2.5 py-1 font-cond data-[state=on]:bg-ink data-[state=on]:text-white"
              >
                {MEASURE_WORDS[name]}
              </ToggleGroup.Item>
            ))}
          </ToggleGroup.Root>
          {measure === 'quantity' && cart.lines.length > 1 && (
            <Select
              label="Whose units change"
              className="max-w-44"
              value={chosenLine}
              choices={cart.lines.map(
                (item, index) => [index, bench?.quote.lines[index]?.name ?? item.name ?? item.sku] as const,
              )}
              choose={setLine}
            />
          )}
          <span className="flex" role="group" aria-label="Chart range">
            <Button
              look="quiet"
              className="px-1"
              aria-label="Strips half as far"
              data-tip="Strips half as far"
              disabled={zoom <= 0.5}
              onClick={() => setZoom(zoom / 2)}
            >
              <Plus size={14} aria-hidden />
            </Button>
            <Button
              look="quiet"
              className="px-1"
              aria-label="Strips twice as far"
              data-tip="Strips twice as far"
              disabled={zoom >= 32}
              onClick={() => setZoom(zoom * 2)}
            >
              <Minus size={14} aria-hidden />
            </Button>
          </span>
        </span>
      </header>
      <div className={`${ROW} sticky top-0 z-10 border-l-[5px] border-transparent bg-paper pr-3 pl-2`}>
        <span />
        <div className="mr-3">
          <AxisRuler axis={axis} />
        </div>
        <span />
      </div>
      <div {...strips}>
        {zones.map((zone) => (
          <ZoneBand
            key={zone.id}
            zone={zone}
            index={setup.zones.indexOf(zone)}
            axis={axis}
            lines={lines}
            formats={formats}
            dearest={dearest}
            opened={opened}
            toggle={toggle}
          />
        ))}
      </div>
      {setup.zones.length > 0 && zones.length === 0 && (
        <p className="border-t border-edge px-3 py-4">No zone is like this.</p>
      )}
      {setup.zones.length === 0 && (
        <p className="border-t border-edge px-3 py-4">
          There are no zones. Say where you ship: add the first one.
        </p>
      )}
      <AddZone added={(zone) => open({ kind: 'zone', id: zone.id, field: null })} />
    </div>
  )
}
