import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react'
import { useLocation } from 'react-router'
import type { Cart, Schemas, Setup } from '../api/client'

/** A line as the cart document has it: of a SKU, or of goods that no catalogue knows. */
export type BenchLine = Schemas['CartLine']

export interface BenchCart {
  lines: BenchLine[]
  country: string
  /** Code of ISO 3166-2 without the country's prefix. */
  region: string
  postcode: string
  street: string
  /** Off the whole order, as typed; empty for nothing. */
  discount: string
}

const KEY = 'gate-mile.bench'
export const MOST_UNITS = 1_000_000

function isPlain(line: BenchLine): boolean {
  return Object.entries(line).every(
    ([key, value]) => key === 'sku' || key === 'quantity' || value === undefined,
  )
}

/**
 * The cart as query parameters: `item=4*SKU` for each line, or the line's JSON where it says more; `to=GB`,
 * `postcode=TR29 4ZZ`.
 */
export function toQuery(cart: BenchCart): string {
  const query = new URLSearchParams()
  for (const line of cart.lines)
    query.append('item', isPlain(line) ? `${line.quantity}*${line.sku}` : JSON.stringify(line))
  if (cart.country) query.set('to', cart.country)
  if (cart.region) query.set('region', cart.region)
  if (cart.postcode) query.set('postcode', cart.postcode)
  if (cart.street) query.set('street', cart.street)
  if (cart.discount) query.set('off', cart.discount)
  return query.toString()
}

function readItem(item: string): BenchLine | null {
  const match = /^(\d{1,7})\*(.+)$/.exec(item)
  if (match?.[2]) return { sku: match[2], quantity: Number(match[1]) }
  try {
    const line: unknown = JSON.parse(item)
    return line !== null && typeof line === 'object' && 'quantity' in line ? (line as BenchLine) : null
  } catch {
    return null
  }
}

/** Reads a shared address back; nothing where it holds no cart. Broken items are passed over. */
export function fromQuery(text: string): BenchCart | null {
  const query = new URLSearchParams(text)
  if (!query.has('item') && !query.has('to')) return null
  const lines = query.getAll('item').flatMap((item) => {
    const line = readItem(item)
    return line && line.quantity >= 1 && line.quantity <= MOST_UNITS ? [line] : []
  })
  const field = (name: string) => query.get(name) ?? ''
  return {
    lines,
    country: field('to'),
    region: field('region'),
    postcode: field('postcode'),
    street: field('street'),
    discount: field('off'),
  }
}

function remembered(): BenchCart | null {
  try {
    return fromQuery(localStorage.getItem(KEY) ?? '')
  } catch {
    return null
  }
}

/** A cart document as the bench holds it. */
export function benchOf(cart: Cart | null | undefined, country: string): BenchCart {
  return {
    lines: cart?.lines ?? [],
    country: cart?.destination?.country ?? country,
    region: cart?.destination?.region ?? '',
    postcode: cart?.destination?.postcode ?? '',
    street: cart?.destination?.lines?.[0] ?? '',
    discount: cart?.order_discount ?? '',
  }
}

/** The cart document that the server quotes. */
export function documentOf(cart: BenchCart): Cart {
  return {
    lines: cart.lines,
    destination: {
      country: cart.country || null,
      region: cart.region || null,
      postcode: cart.postcode.trim() || null,
      lines: cart.street.trim() ? [cart.street.trim()] : [],
    },
    ...(cart.discount.trim() ? { order_discount: cart.discount.trim() } : {}),
  }
}

interface BenchState {
  cart: BenchCart
  add: (sku: string) => void
  addLine: (line: BenchLine) => void
  /** Sets fields of the line at this place; undefined takes one away. */
  setLine: (at: number, fields: { [Key in keyof BenchLine]?: BenchLine[Key] | undefined }) => void
  remove: (at: number) => void
  setAddress: (fields: Partial<Omit<BenchCart, 'lines'>>) => void
  replace: (cart: BenchCart) => void
  clear: () => void
}

const BenchContext = createContext<BenchState | null>(null)

export function useBenchCart(): BenchState {
  const state = useContext(BenchContext)
  if (!state) throw new Error('useBenchCart outside its provider')
  return state
}

/** Holds the bench cart; it is in the page's address, so that the address can be shared, and kept between visits. */
export function BenchCartProvider({ setup, children }: { setup: Setup; children: ReactNode }) {
  const [cart, setCart] = useState<BenchCart>(
    () =>
      fromQuery(location.search) ?? remembered() ?? benchOf(setup.opening_cart, setup.store?.country ?? ''),
  )
  const { pathname, hash } = useLocation()

  useEffect(() => {
    const query = toQuery(cart)
    window.history.replaceState(window.history.state, '', `${pathname}${query ? `?${query}` : ''}${hash}`)
    try {
      localStorage.setItem(KEY, query)
    } catch {
      // Storage may be switched off; the address still holds the cart.
    }
  }, [cart, pathname, hash])

  const state = useMemo<BenchState>(() => {
    const lines = (change: (lines: BenchLine[]) => BenchLine[]) =>
      setCart((old) => ({ ...old, lines: change(old.lines) }))
    return {
      cart,
      add: (sku) =>
        lines((old) => {
          const there = old.findIndex((line) => line.sku === sku && isPlain(line))
          return there < 0
            ? [...old, { sku, quantity: 1 }]
            : old.map((line, at) =>
                at === there ? { ...line, quantity: Math.min(line.quantity + 1, MOST_UNITS) } : line,
              )
        }),
      addLine: (line) => lines((old) => [...old, line]),
      setLine: (place, fields) =>
        lines((old) =>
          old.map((line, at) =>
            at === place
              ? (Object.fromEntries(
                  Object.entries({ ...line, ...fields }).filter(([, value]) => value !== undefined),
                ) as BenchLine)
              : line,
          ),
        ),
      remove: (place) => lines((old) => old.filter((_, at) => at !== place)),
      setAddress: (fields) => setCart((old) => ({ ...old, ...fields })),
      replace: setCart,
      clear: () => setCart((old) => ({ ...old, lines: [], discount: '' })),
    }
  }, [cart])
  return <BenchContext.Provider value={state}>{children}</BenchContext.Provider>
}
