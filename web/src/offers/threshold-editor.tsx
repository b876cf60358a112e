import type { Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { BasisChoice } from '../plans/basis-choice'
import { Choice } from '../ui/choose'
import { formatsOf } from '../ui/format'
import { Typed } from '../ui/typed'

type Threshold = Schemas['Threshold']

const MEASURES: [Threshold['measure'], string][] = [
  ['value', 'a value'],
  ['weight', 'a weight'],
  ['quantity', 'a quantity'],
]

/** The least that a cart must come to, and perhaps where it ends. */
export function ThresholdEditor({
  threshold,
  change,
  put,
  commit,
  errorAt,
}: {
  threshold: Threshold | null
  change: (threshold: Threshold | null) => void
  put: (threshold: Threshold | null) => void
  commit: () => void
  errorAt: (pointer: string) => string | undefined
}) {
  const { setup } = useWorkshop()
  const { symbol } = formatsOf(setup.store!)
  const unit = { value: symbol, weight: setup.store!.weight_unit!, quantity: 'units' }
  const set = (fields: Partial<Threshold>) => threshold && change({ ...threshold, ...fields })
  return (
    <div className="flex flex-col gap-2">
      <span className="flex flex-wrap gap-x-4">
        <Choice name="threshold" on={threshold === null} choose={() => put(null)} label="from nothing on" />
        {MEASURES.map(([measure, label]) => (
          <Choice
            key={measure}
            name="threshold"
            on={threshold?.measure === measure}
            choose={() => change({ measure, from: '' })}
            label={`from ${label} on`}
          />
        ))}
      </span>
      {threshold && (
        <>
          <span className="flex flex-wrap items-start gap-4">
            <Typed
              label={`At least, ${unit[threshold.measure]}`}
              inputMode="decimal"
              value={threshold.from}
              error={errorAt('/threshold/from')}
              change={(from) => set({ from: withUnit(from, threshold.measure, unit.weight) })}
              commit={commit}
            />
            <Typed
              label={`Less than, ${unit[threshold.measure]}`}
              placeholder="no end"
              inputMode="decimal"
              value={threshold.below ?? ''}
              error={errorAt('/threshold/below')}
              change={(below) =>
                set({ below: below ? withUnit(below, threshold.measure, unit.weight) : null })
              }
              commit={commit}
            />
          </span>
          <span className="flex flex-wrap items-center gap-4">
            {threshold.measure === 'value' && (
              <BasisChoice
                basis={threshold.basis ?? undefined}
                put={(basis) => put({ ...threshold, basis: basis ?? null })}
              />
            )}
            <label className="flex items-center gap-2">
              <span className="font-cond text-soft">Goods that count</span>
              <select
                className="field"
                value={threshold.basis?.lines ?? ''}
                onChange={(event) => {
                  const { lines: _, ...rest } = threshold.basis ?? {}
                  const lines = event.target.value as 'shipping' | 'all' | 'ordinary' | ''
                  const basis = lines ? { ...rest, lines } : rest
                  put({ ...threshold, basis: Object.keys(basis).length ? basis : null })
                }}
              >
                <option value="">as the shop’s</option>
                <option value="shipping">all that ship</option>
                <option value="all">all in the cart</option>
                <option value="ordinary">without those at a price of their own</option>
              </select>
            </label>
          </span>
        </>
      )}
    </div>
  )
}

/** A bare number of a weight means the shop's unit. */
function withUnit(text: string, measure: string, unit: string): string {
  return measure === 'weight' && /^\d+(\.\d+)?\s$/.test(text) ? `${text}${unit}` : text
}
