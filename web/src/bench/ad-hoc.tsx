import { useState, type FormEvent } from 'react'
import { useWorkshop } from '../api/setup'
import { useBenchCart } from './cart'

const BLANK = { name: '', price: '', weight: '', length: '', width: '', height: '', class: '' }
type Draft = typeof BLANK

/** Goods that no catalogue knows: a name, a price, and what else is known. A bare number is in the shop's units. */
export function AdHoc({ close }: { close: () => void }) {
  const { setup } = useWorkshop()
  const { addLine } = useBenchCart()
  const [draft, setDraft] = useState<Draft>(BLANK)
  const store = setup.store!
  const withUnit = (text: string, unit: string) =>
    /^[\d.,\s]+$/.test(text) ? `${text.trim()} ${unit}` : text.trim()
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const sides = [draft.length, draft.width, draft.height].map((side) => side.trim())
    const [length, width, height] = sides.map((side) => withUnit(side, store.length_unit!))
    addLine({
      name: draft.name.trim() || 'Goods',
      quantity: 1,
      unit_price: draft.price.trim() || '0',
      ...(draft.weight.trim() ? { weight: withUnit(draft.weight, store.weight_unit!) } : {}),
      ...(sides.some(Boolean) ? { size: { length: length!, width: width!, height: height! } } : {}),
      ...(draft.class ? { class: draft.class } : {}),
    })
    close()
  }
  const field = (key: keyof Draft, label: string, className = '') => (
    <input
      className={`field w-full ${className}`}
      aria-label={label}
      placeholder={label}
      autoFocus={key === 'name'}
      value={draft[key]}
      autoComplete="off"
      onChange={(event) => setDraft({ ...draft, [key]: event.target.value })}
    />
  )
  return (
    <form
      aria-label="Goods not in the catalogue"
      className="grid grid-cols-6 gap-1.5 border-l-4 border-ink bg-paper p-2"
      onSubmit={submit}
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      {field('name', 'What it is', 'col-span-6')}
      {field('price', 'Price of one', 'col-span-3')}
      {field('weight', `Weight, ${store.weight_unit}`, 'col-span-3')}
      {field('length', `L, ${store.length_unit}`, 'col-span-2')}
      {field('width', `W, ${store.length_unit}`, 'col-span-2')}
      {field('height', `H, ${store.length_unit}`, 'col-span-2')}
      <select
        className="field col-span-6"
        aria-label="Class"
        value={draft.class}
        onChange={(event) => setDraft({ ...draft, class: event.target.value })}
      >
        <option value="">no class</option>
        {setup.classes.map(({ id, name }) => (
          <option key={id}>{name}</option>
        ))}
      </select>
      <span className="col-span-6 flex gap-2">
        <button type="submit" className="button">
          Put it on the bench
        </button>
        <button type="button" className="quiet" onClick={close}>
          Cancel
        </button>
      </span>
    </form>
  )
}
