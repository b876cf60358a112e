import { ChevronDown, ChevronRight, X } from 'lucide-react'
import { useState } from 'react'
import { useWorkshop } from '../edits/workshop'
import { FieldError } from '../ui/field-error'
import type { Formats } from '../ui/format'
import { useBenchCart, type BenchLine } from '../cart/cart'
import { useBenchResult } from '../cart/result'
import { Stepper } from '../cart/stepper'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

const UNKNOWN = { class: 'There is no such shipping class', tax_class: 'There is no such tax class' } as const

/** The goods on the bench, each with its quantity; more of a line opens below it. */
export function Lines({ formats }: { formats: Formats }) {
  const { cart } = useBenchCart()
  if (cart.lines.length === 0) return null
  return (
    <ul
      aria-label="Goods on the bench"
      className="-mr-2 min-h-[5.5rem] flex-[0_12_auto] overflow-y-auto pr-2"
    >
      {cart.lines.map((line, at) => (
        <Line key={`${at} ${line.sku ?? line.name}`} line={line} at={at} formats={formats} />
      ))}
    </ul>
  )
}

function Line({ line, at, formats }: { line: BenchLine; at: number; formats: Formats }) {
  const { setLine, remove } = useBenchCart()
  const { bench, problemAt } = useBenchResult()
  const [open, setOpen] = useState(false)
  const found = bench?.quote.lines[at]
  const quoted = found && (found.sku ?? found.name) === (line.sku ?? line.name) ? found : undefined
  const name = quoted?.name ?? line.name ?? line.sku ?? ''
  const problem = problemAt(`/cart/lines/${at}`)
  const off = line.discount && Number(line.discount) > 0
  const weight = quoted?.weight ? `${quoted.weight} in all` : 'no weight known'
  const about =
    quoted && !quoted.ships
      ? 'needs no shipping'
      : `${weight}${off ? `, ${formats.money(line.discount!)} off` : ''}`
  const troubles = [
    ...(quoted && !quoted.known ? [line.sku ? 'Not in the catalogue' : 'It has no price'] : []),
    ...(quoted?.unknown ?? []).map(
      (what) => `${UNKNOWN[what]}: ${what === 'class' ? line.class : line.tax_class}`,
    ),
  ]
  return (
    <li className="border-t border-hair first:border-t-0">
      <div className="flex items-center gap-1.5">
        <Button
          look="bare"
          className="flex min-h-7 min-w-0 flex-1 items-center gap-0.5 rounded-xs text-left font-medium hover:underline"
          aria-expanded={open}
          data-tip={`${name}: ${about}`}
          onClick={() => setOpen(!open)}
        >
          {open ? (
            <ChevronDown size={12} aria-hidden className="shrink-0 text-soft" />
          ) : (
            <ChevronRight size={12} aria-hidden className="shrink-0 text-soft" />
          )}
          <span className="sr-only">discount and details of </span>
          <span className="truncate">{name}</span>
          <span className="sr-only">, {about}</span>
        </Button>
        <Stepper label={name} value={line.quantity} change={(quantity) => setLine(at, { quantity })} />
        <span className="min-w-13 text-right">{quoted?.value ? formats.money(quoted.value) : '–'}</span>
        <Button
          look="quiet"
          className="-mx-1 min-w-7 px-0"
          aria-label={`Take ${name} off the bench`}
          onClick={() => remove(at)}
        >
          <X size={13} aria-hidden />
        </Button>
      </div>
      {troubles.map((trouble) => (
        <p key={trouble} className="pb-1 text-xs font-medium text-brick">
          {trouble}
        </p>
      ))}
      {problem && <FieldError>{problem}</FieldError>}
      {open && <Details line={line} at={at} formats={formats} name={name} />}
    </li>
  )
}

/** What a line says besides what and how many: an empty field leaves it to the catalogue. */
function Details({
  line,
  at,
  formats,
  name,
}: {
  line: BenchLine
  at: number
  formats: Formats
  name: string
}) {
  const { setup } = useWorkshop()
  const { setLine } = useBenchCart()
  const { bench } = useBenchResult()
  const quoted = bench?.quote.lines[at]
  const text = (field: 'discount' | 'unit_price' | 'weight', label: string, hint: string) => (
    <label className="flex flex-col font-cond text-soft">
      {label}
      <Input
        className="w-full font-sans"
        aria-label={`${label}: ${name}`}
        placeholder={hint}
        value={line[field] ?? ''}
        autoComplete="off"
        onChange={(event) => setLine(at, { [field]: event.target.value || undefined })}
      />
    </label>
  )
  return (
    <div className="my-1 grid grid-cols-2 gap-2 border-l-4 border-ink bg-paper p-2">
      {text('discount', `Off the line, ${formats.symbol}`, 'nothing')}
      {text('unit_price', 'Price of one', quoted?.unit_price ?? 'not known')}
      {text('weight', 'Weight of one', 'as known')}
      <label className="flex flex-col font-cond text-soft">
        Class
        <Select
          label={`Class: ${name}`}
          className="w-full"
          value={line.class ?? ''}
          choices={[
            ['', setup.classes.find(({ id }) => id === quoted?.class && !line.class)?.name ?? 'as known'],
            ...setup.classes.map(({ name: own }) => [own, own] as const),
          ]}
          choose={(value) => setLine(at, { class: value || undefined })}
        />
      </label>
      <p className="col-span-2 text-xs text-soft">
        {quoted?.weight ? `${quoted.weight} in all` : 'No weight known'}
        {quoted?.longest && `, longest side ${quoted.longest}`}
      </p>
    </div>
  )
}
