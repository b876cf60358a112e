import { useState, type FormEvent } from 'react'
import { useWorkshop } from '../edits/workshop'
import { useBenchCart } from '../cart/cart'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

const BLANK = { name: '', price: '', weight: '', length: '', width: '', height: '', class: '' }
type Draft = typeof BLANK

/** Goods that no catalogue knows: a name, a price, and what else is known. A bare number is in the shop's units. */
export function AdHoc({ close }: { close: () => void }) {
  const { setup } = useWorkshop()
  const { addLine } = useBenchCart()
  const [draft, setDraft] = useState<Draft>(BLANK)
  const store = setup.store
  const withUnit = (text: string, unit: string) =>
    /^[\d.,\s]+$/.test(text) ? `${text.trim()} ${unit}` : text.trim()
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const sides = [draft.length, draft.width, draft.height].map((side) => side.trim())
    const [length = '', width = '', height = ''] = sides.map((side) => withUnit(side, store.length_unit))
    addLine({
      name: draft.name.trim() || 'Goods',
      quantity: 1,
      unit_price: draft.price.trim() || '0',
      ...(draft.weight.trim() ? { weight: withUnit(draft.weight, store.weight_unit) } : {}),
      ...(sides.some(Boolean) ? { size: { length, width, height } } : {}),
      ...(draft.class ? { class: draft.class } : {}),
    })
    close()
  }
  const field = (key: keyof Draft, label: string, className = '') => (
    <Input
      className={`w-full ${className}`}
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
      <Select
        label="Class"
        className="col-span-6"
        value={draft.class}
        choices={[['', 'no class'], ...setup.classes.map(({ name }) => [name, name] as const)]}
        choose={(value) => setDraft({ ...draft, class: value })}
      />
      <span className="col-span-6 flex gap-2">
        <Button type="submit">Put it on the bench</Button>
        <Button look="quiet" onClick={close}>
          Cancel
        </Button>
      </span>
    </form>
  )
}
