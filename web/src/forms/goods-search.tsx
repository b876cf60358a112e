import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { useId, useState, type KeyboardEvent } from 'react'
import { api, answerOf, type Product } from '../api/client'
import type { Formats } from '../ui/format'
import { Input } from '../ui/input'

/** The question for goods by what is typed. */
function asking(text: string) {
  return {
    queryKey: ['products', 'bench', text],
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      answerOf(api.GET('/api/products', { params: { query: { limit: 8, q: text } }, signal })),
  }
}

/** Finds goods by name or SKU and gives one to whoever asked, by default the bench. Arrow keys choose, Enter takes. */
export function GoodsSearch({
  formats,
  take,
  id: inputId = 'bench-search',
  label = 'Add goods by name or SKU',
  placeholder = 'Add goods by name or SKU …',
}: {
  formats: Formats
  take: (product: Product) => void
  id?: string
  label?: string
  placeholder?: string
}) {
  const [text, setText] = useState('')
  const [open, setOpen] = useState(false)
  const [at, setAt] = useState(0)
  const id = useId()
  const client = useQueryClient()
  const { data, isPlaceholderData: earlier } = useQuery({
    ...asking(text),
    enabled: open,
    placeholderData: keepPreviousData,
  })
  const found = open ? (data?.products ?? []) : []
  const chosen = Math.min(at, found.length - 1)

  const pick = (product: Product) => {
    take(product)
    setText('')
    setAt(0)
  }

  /** Enter before the answer to what is typed: its first one is meant, not that of what was typed before. */
  const pickFirst = async () => {
    const { products } = await client.fetchQuery(asking(text))
    if (products[0]) pick(products[0])
  }

  const keys = (event: KeyboardEvent) => {
    const product = found[chosen]
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault()
      setOpen(true)
      setAt(Math.max(0, Math.min(found.length - 1, chosen + (event.key === 'ArrowDown' ? 1 : -1))))
    } else if (event.key === 'Enter' && (product || text)) {
      event.preventDefault()
      if (earlier || !data) void pickFirst().catch(() => undefined)
      else if (product) pick(product)
    } else if (event.key === 'Escape') {
      setOpen(false)
      setText('')
    }
  }

  return (
    <div className="relative">
      <Input
        id={inputId}
        role="combobox"
        aria-label={label}
        aria-expanded={open && found.length > 0}
        aria-controls={`${id}-list`}
        aria-activedescendant={found[chosen] ? `${id}-${chosen}` : undefined}
        aria-autocomplete="list"
        autoComplete="off"
        className="w-full border-dashed"
        placeholder={placeholder}
        value={text}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onKeyDown={keys}
        onChange={(event) => {
          setText(event.target.value)
          setAt(0)
          setOpen(true)
        }}
      />
      {open && (
        <ul
          id={`${id}-list`}
          role="listbox"
          aria-label="Goods found"
          className="absolute inset-x-0 top-full z-20 max-h-80 overflow-auto border border-ink bg-white"
        >
          {found.map((product, index) => (
            <li
              key={product.id}
              id={`${id}-${index}`}
              role="option"
              aria-selected={index === chosen}
              className={`flex justify-between gap-2 px-2 py-1.5 ${index === chosen ? 'bg-ink text-white' : ''}`}
              onPointerDown={(event) => {
                event.preventDefault()
                pick(product)
              }}
            >
              <span>
                {product.name} <span className="block text-xs opacity-80">{product.sku}</span>
              </span>
              <span>{formats.money(product.price ?? product.inherited?.price ?? '0')}</span>
            </li>
          ))}
          {data && found.length === 0 && (
            <li className="px-2 py-2 text-soft" role="option" aria-selected={false} aria-disabled>
              {text ? `Nothing is called “${text}”.` : 'There are no goods yet. Add some under Goods.'}
            </li>
          )}
        </ul>
      )}
    </div>
  )
}
