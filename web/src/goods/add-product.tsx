import { Plus } from 'lucide-react'
import { useState, type FormEvent } from 'react'
import { ApiProblem, call, type Product } from '../api/client'
import { useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'

const BLANK = { sku: '', name: '', price: '', weight: '' }

/** A new product, or a variant of one; what can't be taken stays typed, with the reason below it. */
export function AddProduct({ parent }: { parent?: Product }) {
  const { edit, setup } = useWorkshop()
  const [draft, setDraft] = useState(BLANK)
  const [problem, setProblem] = useState<Error | null>(null)
  const what = parent ? 'variant' : 'product'
  const send = async (sure: boolean, weight = draft.weight) => {
    try {
      await edit(() =>
        call('POST', '/api/products', {
          ...draft,
          price: draft.price.trim() || null,
          weight: weight.trim() || null,
          ...(parent ? { parent: parent.id } : {}),
          ...(sure ? { sure } : {}),
        }),
      )
      setDraft(BLANK)
      setProblem(null)
    } catch (error) {
      setProblem(error as Error)
    }
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    void send(false)
  }
  const told = problem instanceof ApiProblem ? problem : null
  const suggestion = told?.suggestionAt('/weight')
  const columns = [
    ['sku', 'SKU', 'w-32'],
    ['name', 'Name', 'w-64'],
    ['price', parent ? `Price, or as ${parent.price ?? 'the product'}` : 'Price', parent ? 'w-32' : 'w-20'],
    ['weight', `Weight, ${setup.store!.weight_unit}`, 'w-28'],
  ] as const
  return (
    <form className="flex flex-wrap items-start gap-2" aria-label={`Add a ${what}`} onSubmit={submit}>
      {columns.map(([field, placeholder, width]) => {
        const error = told?.at(`/${field}`)
        return (
          <span key={field} className="flex max-w-64 flex-col gap-1">
            <input
              className={`field ${width}`}
              aria-label={`${placeholder.split(',')[0]} of a new ${what}`}
              placeholder={placeholder}
              value={draft[field]}
              autoComplete="off"
              aria-invalid={error ? true : undefined}
              onChange={(event) => setDraft({ ...draft, [field]: event.target.value })}
            />
            {error && <FieldError>{error}</FieldError>}
            {field === 'weight' && suggestion && (
              <span className="flex gap-1">
                <button type="button" className="button" onClick={() => void send(false, suggestion)}>
                  No, {suggestion}
                </button>
                <button type="button" className="button" onClick={() => void send(true)}>
                  Yes, it does
                </button>
              </span>
            )}
          </span>
        )
      })}
      <button type="submit" className="button">
        <Plus size={14} aria-hidden /> Add {what}
      </button>
      {problem && !told?.problem.errors.length && <FieldError>{problem.message}</FieldError>}
    </form>
  )
}
