import { ToggleGroup } from 'radix-ui'
import { useEffect, useState } from 'react'
import { useLocation } from 'react-router'
import { useWorkshop } from '../api/setup'
import { useBenchResult } from '../bench/result'
import { formatsOf } from '../ui/format'
import { AddZone } from './add-zone'
import { AxisRuler, axisOf, MEASURES, MEASURE_WORDS, type MeasureName } from './axis'
import { ROW } from './rate-row'
import { ZoneBand, type Opened } from './zone-band'

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
  useEffect(() => {
    const next = openedBy(hash)
    if (!next) return
    const id = next.kind === 'rate' ? `rate-${next.id}-${next.field ?? 'plan'}` : `zone-${next.id}-name`
    document.getElementById(id)?.focus()
  }, [hash, key])
  const formats = formatsOf(setup.store!)
  const axis = axisOf(measure, bench?.quote.measures, formats, setup.store!.weight_unit ?? '')
  const dearest = Math.max(0, ...setup.rates.map((rate) => Number(rate.plan?.schedule.amount ?? 0)))
  return (
    <div className="px-4 pt-3 pb-10">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h1 className="text-2xl">Board</h1>
        {compareTo !== null && compared && (
          <p className="flex items-baseline gap-2 text-soft">
            <span>
              With your edit, before → after: <b className="text-ink">{compared}</b>
            </span>
            <button type="button" className="underline" onClick={settle}>
              show only the new prices
            </button>
          </p>
        )}
        <span className="ml-auto flex items-center gap-2">
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
        </span>
      </header>
      <div className={`${ROW} sticky top-0 z-10 border-l-[5px] border-transparent bg-paper pr-3 pl-2`}>
        <span />
        <div className="mr-3">
          <AxisRuler axis={axis} />
        </div>
        <span />
      </div>
      {setup.zones.map((zone, index) => (
        <ZoneBand
          key={zone.id}
          zone={zone}
          index={index}
          axis={axis}
          formats={formats}
          dearest={dearest}
          opened={opened}
          open={open}
        />
      ))}
      {setup.zones.length === 0 && (
        <p className="border-t border-edge px-3 py-4">
          There are no zones. Say where you ship: add the first one.
        </p>
      )}
      <AddZone added={(zone) => open({ kind: 'zone', id: zone.id, field: null })} />
    </div>
  )
}
