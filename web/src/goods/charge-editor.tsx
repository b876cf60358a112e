import { byId } from '../api/by-id'
import { X } from 'lucide-react'
import type { KeyboardEvent } from 'react'
import type { Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { FieldError } from '../ui/field-error'
import { formatsOf } from '../ui/format'
import type { DraftCharge } from './draft'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'
import { Sheet } from '../ui/sheet/sheet'
import type { SheetCell, SheetColumn } from '../ui/sheet/types'

type Step = DraftCharge['steps'][number]
const BLANK: Step = { from: '', amount: '' }
/** How many steps can be pasted below the last one. */
const MOST = 200

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
  const formats = formatsOf(setup.store)
  const stepped = charge.kind !== 'unit'
  const enter = (event: KeyboardEvent) => {
    if (event.key === 'Enter') {
      event.preventDefault()
      commit()
    }
  }
  const withCells = (cells: readonly SheetCell<Step>[]) => {
    const steps = [...charge.steps]
    for (const { index, column, text } of cells) {
      while (steps.length <= index) steps.push(BLANK)
      steps[index] = { ...(steps[index] ?? BLANK), [column]: text }
    }
    while (steps.length > 1 && !steps.at(-1)?.from && !steps.at(-1)?.amount) steps.pop()
    return { ...charge, steps }
  }
  const store = (next: DraftCharge) => {
    change(next)
    commit(next)
  }
  const remove = (at: number) =>
    charge.steps.length > 1 && store({ ...charge, steps: charge.steps.filter((_, index) => index !== at) })
  const faultAt = (_: Step, index: number, column: string) => {
    const message = errorAt(`/steps/${index}/${column}`)
    return message ? { message } : undefined
  }
  const faults = charge.steps.flatMap((step, at) =>
    ['from', 'amount'].flatMap((field) => faultAt(step, at, field)?.message ?? []),
  )
  const columns: SheetColumn<Step>[] = [
    {
      id: 'from',
      head: 'From units',
      width: 90,
      text: ({ from }) => from,
      placeholder: (step) => (step === BLANK ? 'next step' : ''),
      label: (_, index) => `${label}: step ${index + 1} from`,
    },
    {
      id: 'amount',
      head: `${formats.symbol} for each`,
      width: 90,
      text: ({ amount }) => amount,
      label: (_, index) => `${label}: step ${index + 1} for each`,
    },
    {
      id: 'remove',
      head: <span className="sr-only">Remove</span>,
      width: 34,
      text: () => '',
      label: () => '',
      act: (_, index) => remove(index),
      show: (step, _, index) =>
        step !== BLANK &&
        charge.steps.length > 1 && (
          <Button
            look="quiet"
            tabIndex={-1}
            aria-label={`${label}: take step ${index + 1} out`}
            onClick={() => remove(index)}
          >
            <X size={13} aria-hidden />
          </Button>
        ),
    },
    {
      id: 'ordinary',
      head: comparison?.name ? `As many of ${comparison.name}, alone, in the ordinary rates` : '',
      width: 380,
      text: ({ from }) => from,
      label: () => '',
      closed: () => 'What the ordinary rates would take, to compare with.',
      show: ({ from }) => <Ordinary comparison={comparison} quantity={Number(from)} rates={rates} />,
    },
  ]
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
    if ((kind === 'unit' ? next.amount : next.steps[0]?.amount) !== '') store(next)
    else change(next)
  }
  return (
    <div>
      <label className="flex items-center gap-2">
        <span className="sr-only">{label}: </span>
        <Select
          label={`${label}: how it is counted`}
          value={charge.kind}
          choices={kinds}
          choose={(value) => choose(value)}
        />
      </label>
      {!stepped && (
        <div className="mt-1.5 flex flex-wrap items-center gap-2">
          <span className="text-soft">{formats.symbol}</span>
          <Input
            className="w-24"
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
        <>
          <Sheet
            label={`${label}: steps`}
            columns={columns}
            rows={{
              count: charge.steps.length + 1,
              at: (index) => (index === charge.steps.length ? BLANK : charge.steps[index]),
              idOf: (_, index) => String(index + 1),
              byPlace: true,
            }}
            put={(cells) => store(withCells(cells))}
            typing={(cell, over) => {
              const next = withCells([cell])
              if (over) store(next)
              else change(next)
            }}
            faultAt={faultAt}
            grows={MOST}
            className="mt-1.5 max-h-80 w-fit max-w-full border-y border-edge"
          />
          {[...new Set(faults)].map((fault) => (
            <FieldError key={fault}>{fault}</FieldError>
          ))}
        </>
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
  const formats = formatsOf(setup.store)
  const found = comparison?.quantities.find((row) => row.quantity === quantity)
  if (!found) return null
  const parts = rates.flatMap((id) => {
    const rate = byId(setup.rates, id)
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
