import { Plus, X } from 'lucide-react'
import type { ClipboardEvent, KeyboardEvent } from 'react'
import type { Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import { formatsOf } from '../ui/format'
import type { DraftCharge } from './draft'

interface Props {
  label: string
  charge: DraftCharge
  change: (charge: DraftCharge) => void
  /** Stores what is typed. */
  commit: (charge?: DraftCharge) => void
  /** What is wrong at a pointer below the charge. */
  errorAt: (pointer: string) => string | undefined
  comparison: Schemas['Comparison'] | undefined
  /** The rates to compare with. */
  rates: string[]
}

/** A price for each unit, or steps; beside each step what the ordinary rate would take for as many. */
export function ChargeEditor({ label, charge, change, commit, errorAt, comparison, rates }: Props) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store!)
  const stepped = charge.kind !== 'unit'
  const enter = (event: KeyboardEvent) => {
    if (event.key === 'Enter') {
      event.preventDefault()
      commit()
    }
  }
  const set = (at: number, fields: Partial<DraftCharge['steps'][number]>) =>
    change({
      ...charge,
      steps: charge.steps.map((step, index) => (index === at ? { ...step, ...fields } : step)),
    })
  const put = (steps: DraftCharge['steps']) => {
    const next = { ...charge, steps }
    change(next)
    commit(next)
  }
  // Cells of a spreadsheet: from, amount.
  const paste = (event: ClipboardEvent, at: number) => {
    const rows = event.clipboardData
      .getData('text')
      .trim()
      .split(/\r?\n/)
      .map((line) => line.split('\t'))
    if (rows.length < 2 || rows.some((row) => row.length < 2)) return
    event.preventDefault()
    put([
      ...charge.steps.slice(0, at),
      ...rows.map(([from, amount]) => ({ from: from!.trim(), amount: amount!.trim() })),
    ])
  }
  const kinds: [DraftCharge['kind'], string][] = [
    ['unit', 'the same for each'],
    ['graduated', 'steps: each unit pays its own step'],
    ['whole', 'steps: all units pay the step reached'],
  ]
  const choose = (kind: DraftCharge['kind']) => {
    const steps =
      !stepped && kind !== 'unit' && charge.amount
        ? [{ from: '1', amount: charge.amount }, ...charge.steps.slice(1)]
        : charge.steps
    const next = { ...charge, kind, steps, amount: charge.amount || (charge.steps[0]?.amount ?? '') }
    change(next)
    if ((kind === 'unit' ? next.amount : next.steps[0]?.amount) !== '') commit(next)
  }
  return (
    <div>
      <label className="flex items-center gap-2">
        <span className="sr-only">{label}: </span>
        <select
          className="field"
          aria-label={`${label}: how it is counted`}
          value={charge.kind}
          onChange={(event) => choose(event.target.value as DraftCharge['kind'])}
        >
          {kinds.map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </select>
      </label>
      {!stepped && (
        <div className="mt-1.5 flex flex-wrap items-center gap-2">
          <span className="text-soft">{formats.symbol}</span>
          <input
            className="field w-24"
            aria-label={`${label}: for each`}
            aria-invalid={errorAt('/amount') ? true : undefined}
            inputMode="decimal"
            placeholder="not set"
            value={charge.amount}
            onChange={(event) => change({ ...charge, amount: event.target.value })}
            onBlur={() => commit()}
            onKeyDown={enter}
          />
          <span className="text-soft">for each. Zero ships free.</span>
          <Ordinary named comparison={comparison} quantity={1} rates={rates} />
          {errorAt('/amount') && <FieldError>{errorAt('/amount')}</FieldError>}
        </div>
      )}
      {stepped && (
        <table className="mt-1.5">
          <thead>
            <tr className="text-left font-cond text-soft">
              <th className="font-medium">From units</th>
              <th className="font-medium">{formats.symbol} for each</th>
              <th className="pl-2 font-medium">
                {comparison?.name ? `As many of ${comparison.name}, alone, in the ordinary rates` : ''}
              </th>
            </tr>
          </thead>
          <tbody>
            {charge.steps.map((step, at) => {
              const wrong = errorAt(`/steps/${at}/from`) ?? errorAt(`/steps/${at}/amount`)
              return (
                <tr key={at} className="align-top">
                  <td className="pr-2 pb-1">
                    <input
                      className="field w-20"
                      aria-label={`${label}: step ${at + 1} from`}
                      aria-invalid={errorAt(`/steps/${at}/from`) ? true : undefined}
                      inputMode="numeric"
                      value={step.from}
                      onChange={(event) => set(at, { from: event.target.value })}
                      onPaste={(event) => paste(event, at)}
                      onBlur={() => commit()}
                      onKeyDown={enter}
                    />
                  </td>
                  <td className="pr-2 pb-1">
                    <input
                      className="field w-24"
                      aria-label={`${label}: step ${at + 1} for each`}
                      aria-invalid={errorAt(`/steps/${at}/amount`) ? true : undefined}
                      inputMode="decimal"
                      value={step.amount}
                      onChange={(event) => set(at, { amount: event.target.value })}
                      onBlur={() => commit()}
                      onKeyDown={enter}
                    />
                    {charge.steps.length > 1 && (
                      <button
                        type="button"
                        className="quiet px-1"
                        aria-label={`${label}: take step ${at + 1} out`}
                        onClick={() => put(charge.steps.filter((_, index) => index !== at))}
                      >
                        <X size={13} aria-hidden />
                      </button>
                    )}
                  </td>
                  <td className="py-1.5 pl-2">
                    {wrong ? (
                      <FieldError>{wrong}</FieldError>
                    ) : (
                      <Ordinary comparison={comparison} quantity={Number(step.from)} rates={rates} />
                    )}
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
      )}
      {stepped && (
        <button
          type="button"
          className="quiet px-0"
          onClick={() => change({ ...charge, steps: [...charge.steps, { from: '', amount: '' }] })}
        >
          <Plus size={13} aria-hidden /> Add a step
        </button>
      )}
    </div>
  )
}

/** What the ordinary rates would take for so many of one of its products, alone in a cart. */
function Ordinary({
  comparison,
  quantity,
  rates,
  named,
}: {
  named?: boolean
  comparison: Schemas['Comparison'] | undefined
  quantity: number
  rates: string[]
}) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store!)
  const found = comparison?.quantities.find((row) => row.quantity === quantity)
  if (!found) return null
  const parts = rates.flatMap((id) => {
    const rate = setup.rates.find((candidate) => candidate.id === id)
    const price = found.rates[id]
    const name = rate?.name ?? setup.methods.find((method) => method.id === rate?.method)?.name
    return price === undefined ? [] : [`${name} ${price === null ? 'no price' : formats.price(price)}`]
  })
  return (
    <span className="text-xs text-soft">
      {named ? `${quantity} × ${comparison?.name}, alone, in the ordinary rates: ` : `${quantity}: `}
      {parts.join(', ') || 'no rate there'}
    </span>
  )
}
