import { useMemo, useState } from 'react'
import { useWorkshop } from '../edits/workshop'
import { useEditedRows } from '../edits/edited-sheet'
import { Button } from '../ui/button'
import { list } from '../ui/locale'
import { OnlyOf } from '../ui/only-of'
import { Tick } from '../ui/tick'
import { ClassSheet, type Row } from './class-sheet'
import { useFigures } from './use-figures'
import { Empty } from '../ui/said'

/** What a class costs in every zone at 1, 2 and 5 units, side by side, and priced right there. */
export function ByClass() {
  const { setup } = useWorkshop()
  const [whole, setWhole] = useState(false)
  const [only, setOnly] = useState('')
  const figures = useFigures()
  const wanted = useMemo(
    () =>
      setup.zones.flatMap(({ id }) =>
        setup.rates.filter((rate) => rate.zone === id && rate.plan && (!only || rate.method === only)),
      ),
    [setup, only],
  )
  const edited = useEditedRows('rates', wanted)
  const rows = useMemo(() => {
    const names = (items: { id?: string; name?: string }[]) =>
      new Map(items.map(({ id, name }) => [id, name ?? '']))
    const zones = names(setup.zones)
    const methods = names(setup.methods)
    return edited
      .filter(({ doc }) => whole || doc.plan?.group === 'class')
      .map((row): Row => {
        const { zone, method, name } = row.doc
        return { ...row, zone: zones.get(zone) ?? '', method: name ?? methods.get(method) ?? '' }
      })
  }, [edited, setup, whole])
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <OnlyOf what="method" items={setup.methods} chosen={only} choose={setOnly} />
        <Tick on={whole} change={(on) => setWhole(on)}>
          rates that do not price by class too
        </Tick>
        <span className="text-soft">
          Bars: what {list(figures.units)} units cost of the class’s goods of middle weight. Type 4.50, “4.50
          each” or “not carried”; an empty cell pays as everything else.
        </span>
      </div>
      {rows.length > 0 ? (
        <ClassSheet rows={rows} figures={figures} whole={whole} />
      ) : (
        <Empty>
          No rate {only ? 'of this method ' : ''}prices by class yet.{' '}
          {!whole && setup.rates.length > 0 && (
            <Button look="quiet" className="underline" onClick={() => setWhole(true)}>
              Show the others, to price one by class
            </Button>
          )}
        </Empty>
      )}
    </div>
  )
}
