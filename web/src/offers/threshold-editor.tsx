import type { Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { BasisChoice } from '../plans/basis-choice'
import { formatsOf } from '../ui/format'
import { Typed } from '../ui/typed'
import { Select } from '../ui/select'
import { Radios } from '../ui/radios'

type Threshold = Schemas['Threshold']

const MEASURES: [Threshold['measure'], string][] = [
  ['value', 'Cart value'],
  ['weight', 'Cart weight'],
  ['quantity', 'Item count'],
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
  const { symbol } = formatsOf(setup.store)
  const unit = { value: symbol, weight: setup.store.weight_unit, quantity: 'units' }
  const set = (fields: Partial<Threshold>) => threshold && change({ ...threshold, ...fields })
  return (
    <div className="flex flex-col gap-2">
      <Radios
        label="Qualifying carts"
        value={threshold?.measure ?? 'none'}
        choices={[['none', 'Any cart'], ...MEASURES]}
        choose={(measure) => (measure === 'none' ? put(null) : change({ measure, from: '' }))}
      />
      {threshold && (
        <>
          <span className="flex flex-wrap items-start gap-4">
            <Typed
              label={`From (${unit[threshold.measure]})`}
              inputMode="decimal"
              value={threshold.from}
              error={errorAt('/threshold/from')}
              change={(from) => set({ from: withUnit(from, threshold.measure, unit.weight) })}
              commit={commit}
            />
            <Typed
              label={`Below (${unit[threshold.measure]})`}
              placeholder="No limit"
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
              <Select
                label="Goods that count"
                value={threshold.basis?.lines ?? ''}
                choices={[
                  ['', 'Shop default'],
                  ['shipping', 'All that ship'],
                  ['all', 'All in the cart'],
                  ['ordinary', 'Those without a price of their own'],
                ]}
                choose={(value) => {
                  const { lines: _, ...rest } = threshold.basis ?? {}
                  const lines = value
                  const basis = lines ? { ...rest, lines } : rest
                  put({ ...threshold, basis: Object.keys(basis).length ? basis : null })
                }}
              />
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
