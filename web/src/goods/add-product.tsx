import { Plus } from 'lucide-react'
import type { Product } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useMade } from '../edits/made'
import { FieldError } from '../ui/field-error'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

const BLANK = { sku: '', name: '', price: '', weight: '', sure: false }

/** A new product, or a variant of one; what can't be taken stays typed, with the reason below it. */
export function AddProduct({ parent }: { parent?: Product }) {
  const { setup } = useWorkshop()
  const what = parent ? 'variant' : 'product'
  const made = useMade(
    'products',
    `New ${what}`,
    BLANK,
    ({ sure, ...typed }) => ({
      ...typed,
      price: typed.price.trim() || null,
      weight: typed.weight.trim() || null,
      ...(parent ? { parent: parent.id } : {}),
      ...(sure ? { sure } : {}),
    }),
    undefined,
    parent ? `variant of ${parent.id}` : 'new',
  )
  const suggestion = made.suggestionAt('/weight')
  const columns = [
    ['sku', 'SKU', 'w-32'],
    ['name', 'Name', 'w-64'],
    ['price', parent ? `Price, or as ${parent.price ?? 'the product'}` : 'Price', parent ? 'w-32' : 'w-20'],
    ['weight', `Weight, ${setup.store.weight_unit}`, 'w-28'],
  ] as const
  return (
    <form
      className="flex flex-wrap items-start gap-2"
      aria-label={`Add a ${what}`}
      onSubmit={(event) => {
        event.preventDefault()
        made.add()
      }}
    >
      {columns.map(([field, placeholder, width]) => {
        const error = made.problemAt(`/${field}`)
        return (
          <span key={field} className="flex max-w-64 flex-col gap-1">
            <Input
              className={`${width}`}
              aria-label={`${placeholder.split(',')[0]} of a new ${what}`}
              placeholder={placeholder}
              value={made.doc[field]}
              autoComplete="off"
              aria-invalid={error ? true : undefined}
              onChange={(event) => made.type({ [field]: event.target.value, sure: false })}
            />
            {error && <FieldError>{error}</FieldError>}
            {field === 'weight' && suggestion && (
              <span className="flex gap-1">
                <Button
                  onClick={() => {
                    made.type({ weight: suggestion })
                    made.add()
                  }}
                >
                  No, {suggestion}
                </Button>
                <Button
                  onClick={() => {
                    made.type({ sure: true })
                    made.add()
                  }}
                >
                  Yes, it does
                </Button>
              </span>
            )}
          </span>
        )
      })}
      <Button type="submit">
        <Plus size={14} aria-hidden /> Add {what}
      </Button>
      {made.problem && !made.placed && <FieldError>{made.problem}</FieldError>}
    </form>
  )
}
