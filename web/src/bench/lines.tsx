import { ChevronDown, ChevronRight, X } from 'lucide-react'
import { useState } from 'react'
import { useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import type { Formats } from '../ui/format'
import { useBenchCart, type BenchLine } from './cart'
import { useBenchResult } from './result'
import { Stepper } from './stepper'

const UNKNOWN = { class: 'There is no such shipping class', tax_class: 'There is no such tax class' } as const

/** The goods on the bench, each with its quantity; more of a line opens below it. */
export function Lines({ formats }: { formats: Formats }) {
  const { cart } = useBenchCart()
  if (cart.lines.length === 0) return null
  return (
    <ul aria-label="Goods on the bench">
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
  return (
    <li className="border-t border-hair py-1">
      <div className="flex items-center gap-2">
        <span className="min-w-0 flex-1 leading-tight">
          <span className="font-medium break-words">{name}</span>
          {quoted && !quoted.known && (
            <span className="block font-medium text-brick">
              {line.sku ? 'Not in the catalogue' : 'It has no price'}
            </span>
          )}
          <button
            type="button"
            className="flex min-h-[24px] items-center gap-0.5 rounded-xs text-left text-xs text-soft hover:text-ink"
            aria-expanded={open}
            onClick={() => setOpen(!open)}
          >
            {about}
            <span className="sr-only">: discount and details of {name}</span>
            {open ? <ChevronDown size={12} aria-hidden /> : <ChevronRight size={12} aria-hidden />}
          </button>
          {quoted?.unknown.map((what) => (
            <span key={what} className="block text-xs font-medium text-brick">
              {UNKNOWN[what]}: {what === 'class' ? line.class : line.tax_class}
            </span>
          ))}
        </span>
        <Stepper label={name} value={line.quantity} change={(quantity) => setLine(at, { quantity })} />
        <span className="min-w-14 text-right">{quoted?.value ? formats.money(quoted.value) : '–'}</span>
        <button
          type="button"
          className="quiet -mr-2 px-1"
          aria-label={`Take ${name} off the bench`}
          onClick={() => remove(at)}
        >
          <X size={13} aria-hidden />
        </button>
      </div>
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
      <input
        className="field w-full font-sans"
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
        <select
          className="field w-full font-sans"
          aria-label={`Class: ${name}`}
          value={line.class ?? ''}
          onChange={(event) => setLine(at, { class: event.target.value || undefined })}
        >
          <option value="">
            {setup.classes.find(({ id }) => id === quoted?.class && !line.class)?.name ?? 'as known'}
          </option>
          {setup.classes.map(({ id, name: own }) => (
            <option key={id}>{own}</option>
          ))}
        </select>
      </label>
      {quoted?.longest && (
        <p className="col-span-2 text-xs text-soft">Longest side of one: {quoted.longest}</p>
      )}
    </div>
  )
}
