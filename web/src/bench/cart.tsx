import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react'
import { useLocation } from 'react-router'
import type { Cart, Setup } from '../api/client'

export interface BenchLine {
  sku: string
  quantity: number
}

export interface BenchCart {
  lines: BenchLine[]
  country: string
  /** Code of ISO 3166-2 without the country's prefix. */
  region: string
  postcode: string
  street: string
}

const KEY = 'gate-mile.bench'
export const MOST_UNITS = 1_000_000

/** The cart as query parameters: `item=4*SKU` for each line, `to=GB`, `postcode=TR29 4ZZ`. */
export function toQuery(cart: BenchCart): string {
  const query = new URLSearchParams()
  for (const line of cart.lines) query.append('item', `${line.quantity}*${line.sku}`)
  if (cart.country) query.set('to', cart.country)
  if (cart.region) query.set('region', cart.region)
  if (cart.postcode) query.set('postcode', cart.postcode)
  if (cart.street) query.set('street', cart.street)
  return query.toString()
}

/** Reads a shared address back; nothing where it holds no cart. Broken items are passed over. */
export function fromQuery(text: string): BenchCart | null {
  const query = new URLSearchParams(text)
  if (!query.has('item') && !query.has('to')) return null
  const lines = query.getAll('item').flatMap((item) => {
    const match = /^(\d{1,7})\*(.+)$/.exec(item)
    const quantity = Number(match?.[1])
    return match?.[2] && quantity >= 1 && quantity <= MOST_UNITS ? [{ sku: match[2], quantity }] : []
  })
  const field = (name: string) => query.get(name) ?? ''
  return {
    lines,
    country: field('to'),
    region: field('region'),
    postcode: field('postcode'),
    street: field('street'),
  }
}

function remembered(): BenchCart | null {
  try {
    return fromQuery(localStorage.getItem(KEY) ?? '')
  } catch {
    return null
  }
}

function opening(setup: Setup): BenchCart {
  const cart = setup.opening_cart
  return {
    lines: (cart?.lines ?? []).map(({ sku, quantity }) => ({ sku, quantity })),
    country: cart?.destination?.country ?? setup.store?.country ?? '',
    region: cart?.destination?.region ?? '',
    postcode: cart?.destination?.postcode ?? '',
    street: cart?.destination?.lines?.[0] ?? '',
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
  }
}

interface BenchState {
  cart: BenchCart
  add: (sku: string) => void
  setQuantity: (sku: string, quantity: number) => void
  remove: (sku: string) => void
  setAddress: (fields: Partial<Omit<BenchCart, 'lines'>>) => void
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
    () => fromQuery(location.search) ?? remembered() ?? opening(setup),
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
        lines((old) =>
          old.some((line) => line.sku === sku)
            ? old.map((line) =>
                line.sku === sku ? { ...line, quantity: Math.min(line.quantity + 1, MOST_UNITS) } : line,
              )
            : [...old, { sku, quantity: 1 }],
        ),
      setQuantity: (sku, quantity) =>
        lines((old) => old.map((line) => (line.sku === sku ? { ...line, quantity } : line))),
      remove: (sku) => lines((old) => old.filter((line) => line.sku !== sku)),
      setAddress: (fields) => setCart((old) => ({ ...old, ...fields })),
      clear: () => lines(() => []),
    }
  }, [cart])
  return <BenchContext.Provider value={state}>{children}</BenchContext.Provider>
}
