import { useMemo, useState } from 'react'
import { useWorkshop } from '../api/setup'
import { useEditedList } from '../edits/edited'
import { Button } from '../ui/button'
import { list } from '../ui/locale'
import { OnlyOf } from '../ui/only-of'
import { Tick } from '../ui/tick'
import { ClassSheet, type Row } from './class-sheet'
import { useFigures } from './use-figures'

/** What a class costs in every zone at 1, 2 and 5 units, side by side, and priced right there. */
export function ByClass() {
  const { setup } = useWorkshop()
  const [whole, setWhole] = useState(false)
  const [only, setOnly] = useState('')
  const { of, all } = useEditedList('rates')
  const figures = useFigures()
  // Rates as they are edited, so that a cell shows what was typed while it is on its way.
  const rows = useMemo(() => {
    const editing = new Set(all.map(({ thing }) => thing))
    const methods = new Map(setup.methods.map(({ id, name }) => [id, name ?? '']))
    return setup.zones.flatMap((zone) =>
      setup.rates
        .filter((rate) => rate.zone === zone.id && rate.plan && (!only || rate.method === only))
        .map((stored): Row => ({
          stored,
          rate: editing.has(`/api/rates/${stored.id}`) ? of(stored).doc : stored,
          zone: zone.name ?? '',
          method: stored.name ?? methods.get(stored.method) ?? '',
        }))
        .filter(({ rate }) => whole || rate.plan?.group === 'class'),
    )
  }, [setup, only, whole, of, all])
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
        <p className="border-t border-hair py-3">
          No rate {only ? 'of this method ' : ''}prices by class yet.{' '}
          {!whole && (
            <Button look="quiet" className="underline" onClick={() => setWhole(true)}>
              Show the others, to price one by class
            </Button>
          )}
        </p>
      )}
    </div>
  )
}
