import { Plus, X } from 'lucide-react'
import { useDeferredValue, useState } from 'react'
import { useLocation, useNavigate, useSearchParams } from 'react-router'
import type { Product } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { counted } from '../ui/locale'
import { AddProduct } from './add-product'
import { BulkEdit } from './bulk-edit'
import { Grid, type Selection } from './grid'
import { ProductPanel } from './product-panel'
import { EVERYTHING, scopeOf, useRows, type Asked } from './use-rows'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

const FILTERS = [
  ['no_weight', 'no weight'],
  ['no_size', 'no size'],
  ['no_class', 'no class'],
  ['treated', 'treated'],
  ['hazardous', 'hazardous'],
  ['no_shipping', 'needs no shipping'],
  ['variants', 'variants'],
] as const

const NONE: Selection = { all: false, ids: new Set() }

/** What an address of this page asks for: `#class=…`, `#treatment=…` or `#find=…` lead here from elsewhere. */
function askedBy(hash: string): Partial<Asked> {
  const query = new URLSearchParams(hash.slice(1))
  return {
    class: query.get('class') ?? '',
    treatment: query.get('treatment') ?? '',
    q: query.get('find') ?? '',
    filter: query.getAll('filter'),
  }
}

/** The catalogue: found, filtered, edited cell by cell or many at once. */
export function Catalogue() {
  const { hash } = useLocation()
  return <Asking key={hash} hash={hash} />
}

function Asking({ hash }: { hash: string }) {
  const { setup } = useWorkshop()
  const navigate = useNavigate()
  const [params] = useSearchParams()
  const [asked, setAsked] = useState<Asked>({ ...EVERYTHING, ...askedBy(hash) })
  const [selection, setSelection] = useState<Selection>(NONE)
  const [adding, setAdding] = useState(false)
  const [opened, setOpened] = useState<Product | null>(null)
  const settled = useDeferredValue(asked)
  const { total } = useRows(settled, 0, 0)
  const ask = (changes: Partial<Asked>) => {
    setAsked({ ...asked, ...changes })
    setSelection(NONE)
  }
  const narrowed = Object.keys(scopeOf(asked)).length > 0
  const chosen = selection.all ? (total ?? 0) : selection.ids.size
  const scope = selection.all ? scopeOf(settled) : { ids: [...selection.ids] }
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-1.5">
        <Input
          type="search"
          className="w-52"
          aria-label="Find goods by name or SKU"
          placeholder="Find by name or SKU …"
          value={asked.q}
          onChange={(event) => ask({ q: event.target.value })}
        />
        <Select
          label="Only of a class"
          value={asked.class}
          choices={[['', 'any class'], ...setup.classes.map(({ id, name }) => [id, name] as const)]}
          choose={(value) => ask({ class: value })}
        />
        <Select
          label="Only reached by a treatment"
          className="max-w-40"
          value={asked.treatment}
          choices={[['', 'any treatment'], ...setup.treatments.map(({ id, name }) => [id, name] as const)]}
          choose={(value) => ask({ treatment: value })}
        />
        <Input
          className="w-24"
          aria-label="Only with a tag"
          placeholder="any tag"
          value={asked.tag}
          onChange={(event) => ask({ tag: event.target.value })}
        />
        <span className="flex flex-wrap gap-1" role="group" aria-label="Only goods">
          {FILTERS.map(([filter, name]) => {
            const on = asked.filter.includes(filter)
            return (
              <Button
                look="bare"
                key={filter}
                aria-pressed={on}
                className={`min-h-[24px] rounded-xs border px-1.5 text-xs ${on ? 'border-ink bg-ink text-white' : 'border-edge bg-white'}`}
                onClick={() =>
                  ask({
                    filter: on ? asked.filter.filter((other) => other !== filter) : [...asked.filter, filter],
                  })
                }
              >
                {name}
              </Button>
            )
          })}
        </span>
        {narrowed && (
          <Button
            look="quiet"
            onClick={() =>
              hash ? void navigate({ pathname: '/goods', search: params.toString() }) : ask(EVERYTHING)
            }
          >
            <X size={13} aria-hidden /> Show all
          </Button>
        )}
        <span className="ml-auto text-soft" aria-live="polite">
          {total === undefined ? '' : counted(total, 'row')}
        </span>
        <Button look="quiet" aria-expanded={adding || total === 0} onClick={() => setAdding(!adding)}>
          <Plus size={14} aria-hidden /> Add a product
        </Button>
      </div>
      {(adding || (total === 0 && !narrowed)) && (
        <div className="mb-2">
          <AddProduct />
        </div>
      )}
      {chosen > 0 && (
        <BulkEdit key={JSON.stringify(scope)} scope={scope} count={chosen} close={() => setSelection(NONE)} />
      )}
      {total === 0 ? (
        <p className="border-t border-hair py-4">
          {narrowed
            ? asked.q && Object.keys(scopeOf(asked)).length === 1
              ? `No product is called “${asked.q}”.`
              : 'No products match.'
            : 'There are no goods yet. Add the first, or read them from CSV: the bench needs something to weigh.'}
        </p>
      ) : (
        <Grid
          key={JSON.stringify({ ...settled, sort: '', descending: false })}
          asked={settled}
          ask={ask}
          selection={selection}
          select={setSelection}
          open={setOpened}
          opened={opened?.id ?? null}
        />
      )}
      {opened && <ProductPanel key={opened.id} product={opened} close={() => setOpened(null)} />}
      <p className="pt-1 text-xs text-soft">
        {chosen > 0 ? `${counted(chosen, 'row')} chosen. ` : ''}
        Typing or Enter edits a cell; Shift with an arrow takes more of them, to copy, paste over, fill down
        (Ctrl+D) or undo (Ctrl+Z). Shift+Space chooses a row. Italics come from the product.
      </p>
    </>
  )
}
