import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Plus, Trash2 } from 'lucide-react'
import { useState, type FormEvent } from 'react'
import { toast } from 'sonner'
import { ApiProblem, call, type Product, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useBenchCart } from '../bench/cart'
import { useTold } from '../board/edits'
import { Field, FieldError } from '../ui/field'
import { counted, formatsOf } from '../ui/format'
import { Switch } from '../ui/switch'

type TextField = 'sku' | 'name' | 'price' | 'weight'

const COLUMNS: { field: TextField; label: string; width: string }[] = [
  { field: 'sku', label: 'SKU', width: 'w-32' },
  { field: 'name', label: 'Name', width: 'w-72' },
  { field: 'price', label: 'Price', width: 'w-20' },
  { field: 'weight', label: 'Weight', width: 'w-24' },
]
const PAGE = 100

/** The catalogue: every cell stores itself. */
export function Goods() {
  const { setup } = useWorkshop()
  const [text, setText] = useState('')
  const [count, setCount] = useState(PAGE)
  const { data, error } = useQuery({
    queryKey: ['products', 'goods', text, count, setup.revision],
    queryFn: ({ signal }) =>
      call<Schemas['Products']>(
        'GET',
        `/api/products?limit=${count}&q=${encodeURIComponent(text)}`,
        undefined,
        signal,
      ),
    placeholderData: keepPreviousData,
  })
  return (
    <div className="px-4 pt-3 pb-10">
      <header className="flex flex-wrap items-center gap-4">
        <h1 className="text-2xl">Goods</h1>
        <input
          type="search"
          className="field w-64"
          aria-label="Find goods by name or SKU"
          placeholder="Find by name or SKU …"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {data && <span className="text-soft">{counted(data.total, 'product')}</span>}
      </header>
      <AddProduct />
      {error && <FieldError>{error.message}</FieldError>}
      {data?.products.length === 0 && (
        <p className="border-t border-hair py-4">
          {text
            ? `Nothing is called “${text}”.`
            : 'There are no goods yet. Add the first: the bench needs something to weigh.'}
        </p>
      )}
      {(data?.products.length ?? 0) > 0 && (
        <table className="mt-1 w-full border-collapse">
          <thead>
            <tr className="text-left font-cond text-soft">
              {COLUMNS.map(({ field, label, width }) => (
                <th key={field} className={`py-1 pr-3 font-medium ${width}`}>
                  {label}
                  {field === 'price' && ` in ${formatsOf(setup.store!).symbol}`}
                </th>
              ))}
              <th className="font-medium">Needs shipping</th>
              <th>
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data?.products.map((product) => (
              <Row key={product.id} product={product} />
            ))}
          </tbody>
        </table>
      )}
      {data && data.total > data.products.length && (
        <button type="button" className="button mt-3" onClick={() => setCount(Math.min(count + PAGE, 500))}>
          Show more: {data.total - data.products.length} are left
        </button>
      )}
    </div>
  )
}

function Row({ product }: { product: Product }) {
  const { edit } = useWorkshop()
  const { add } = useBenchCart()
  const patch = (body: object, version: number) =>
    edit(() => call('PATCH', `/api/products/${product.id}`, { ...body, lock_version: version }))
  const told = useTold()
  const remove = () =>
    told(`Removed ${product.name}`, () =>
      call('DELETE', `/api/products/${product.id}?lock_version=${product.lock_version}`),
    )
  return (
    <tr className="border-t border-hair align-top">
      {COLUMNS.map(({ field, label, width }) => (
        <td key={field} className="py-1 pr-3">
          <Field
            label={`${label} of ${product.name}`}
            hideLabel
            cell
            width={width}
            placeholder={field === 'weight' ? 'not known' : ''}
            value={product[field] ?? ''}
            version={product.lock_version}
            pointer={`/${field}`}
            save={(typed, version) =>
              patch({ [field]: field === 'weight' && !typed.trim() ? null : typed }, version)
            }
            read={(current) => (current as Product)[field] ?? ''}
          />
        </td>
      ))}
      <td className="py-1">
        <Switch
          label={`${product.name} needs shipping`}
          on={product.ships ?? true}
          change={(ships) =>
            void patch({ ships }, product.lock_version).catch((error: Error) => toast.error(error.message))
          }
        />
      </td>
      <td className="py-1 text-right whitespace-nowrap">
        <button type="button" className="quiet" onClick={() => add(product.sku!)}>
          <Plus size={14} aria-hidden /> Bench<span className="sr-only">: add {product.name}</span>
        </button>
        <button
          type="button"
          className="quiet"
          aria-label={`Remove ${product.name}`}
          onClick={() => void remove()}
        >
          <Trash2 size={14} aria-hidden />
        </button>
      </td>
    </tr>
  )
}

const BLANK = { sku: '', name: '', price: '', weight: '' }

function AddProduct() {
  const { edit, setup } = useWorkshop()
  const [draft, setDraft] = useState(BLANK)
  const [problem, setProblem] = useState<Error | null>(null)
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    try {
      await edit(() => call('POST', '/api/products', { ...draft, weight: draft.weight.trim() || null }))
      setDraft(BLANK)
      setProblem(null)
    } catch (error) {
      setProblem(error as Error)
    }
  }
  const errorAt = (field: string) => (problem instanceof ApiProblem ? problem.at(`/${field}`) : undefined)
  return (
    <form
      className="my-3 flex flex-wrap items-start gap-2"
      aria-label="Add a product"
      onSubmit={(event) => void submit(event)}
    >
      {COLUMNS.map(({ field, label, width }) => {
        const error = errorAt(field)
        return (
          <span key={field} className="flex flex-col gap-1">
            <input
              className={`field ${width}`}
              aria-label={`${label} of a new product`}
              placeholder={field === 'weight' ? `Weight, ${setup.store!.weight_unit}` : label}
              value={draft[field]}
              aria-invalid={error ? true : undefined}
              onChange={(event) => setDraft({ ...draft, [field]: event.target.value })}
            />
            {error && <FieldError>{error}</FieldError>}
          </span>
        )
      })}
      <button type="submit" className="button">
        <Plus size={14} aria-hidden /> Add product
      </button>
      {problem && !(problem instanceof ApiProblem && problem.problem.errors.length) && (
        <FieldError>{problem.message}</FieldError>
      )}
    </form>
  )
}
