import { withOnly } from '../api/shapes'
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
  /** Name of the customer group; empty for none. */
  group: string
  /** Coupon codes and names of other promotions, as typed: commas between them. */
  coupons: string
  promotions: string
  /** As if it were then, on the store's clock: 2026-11-27T18:00; empty for now. */
  when: string
  billingCountry: string
  billingPostcode: string
  /** How many orders have used an offer, by its id. */
  uses: Record<string, number>
}

const NOBODY = {
  group: '',
  coupons: '',
  promotions: '',
  when: '',
  billingCountry: '',
  billingPostcode: '',
  uses: {},
}

function listed(text: string): string[] {
  return text
    .split(',')
    .map((part) => part.trim())
    .filter(Boolean)
}

/** The moment that the server is asked for; nothing for now. */
export function momentOf(cart: BenchCart): string | null {
  return cart.when || null
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
  for (const [key, name] of SHOPPER) if (cart[key]) query.set(name, cart[key])
  for (const [offer, count] of Object.entries(cart.uses)) query.append('used', `${count}*${offer}`)
  return query.toString()
}

const SHOPPER = [
  ['group', 'group'],
  ['coupons', 'coupon'],
  ['promotions', 'promotion'],
  ['when', 'at'],
  ['billingCountry', 'bill'],
  ['billingPostcode', 'billpostcode'],
] as const

function readUses(items: string[]): Record<string, number> {
  return Object.fromEntries(
    items.flatMap((item) => {
      const match = /^(\d{1,7})\*(.+)$/.exec(item)
      return match?.[2] ? [[match[2], Number(match[1])]] : []
    }),
  )
}

function readItem(item: string): BenchLine | null {
  const match = /^(\d{1,7})\*(.+)$/.exec(item)
  if (match?.[2]) return { sku: match[2], quantity: Number(match[1]) }
  try {
    const line: BenchLine | null = JSON.parse(item)
    return line !== null && typeof line === 'object' && 'quantity' in line ? line : null
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
    ...NOBODY,
    ...Object.fromEntries(SHOPPER.map(([key, name]) => [key, field(name)])),
    uses: readUses(query.getAll('used')),
  }
}

function remembered(): Carts | null {
  try {
    return cartsFromQuery(localStorage.getItem(KEY) ?? '')
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
    ...NOBODY,
    group: cart?.group ?? '',
    coupons: (cart?.coupons ?? []).join(', '),
    promotions: (cart?.promotions ?? []).join(', '),
    billingCountry: cart?.billing?.country ?? '',
    billingPostcode: cart?.billing?.postcode ?? '',
    uses: cart?.offer_uses ?? {},
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
    ...(cart.group.trim() ? { group: cart.group.trim() } : {}),
    ...(listed(cart.coupons).length ? { coupons: listed(cart.coupons) } : {}),
    ...(listed(cart.promotions).length ? { promotions: listed(cart.promotions) } : {}),
    ...(cart.billingCountry
      ? { billing: { country: cart.billingCountry, postcode: cart.billingPostcode.trim() || null } }
      : {}),
    ...(Object.keys(cart.uses).length ? { offer_uses: cart.uses } : {}),
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

interface Beside {
  /** The second cart, where there is one. */
  beside: BenchState | null
  /** Sets a copy of the bench cart beside it. */
  open: () => void
  close: () => void
  /** The second cart becomes the bench cart, and the other way round. */
  swap: () => void
}

const BesideContext = createContext<Beside | null>(null)

export function useBeside(): Beside {
  const beside = useContext(BesideContext)
  if (!beside) throw new Error('useBeside outside its provider')
  return beside
}

/** What stands inside works with the second cart as if it were the bench cart. */
export function BesideCart({ children }: { children: ReactNode }) {
  return <BenchContext.Provider value={useBeside().beside}>{children}</BenchContext.Provider>
}

interface Carts {
  cart: BenchCart
  beside: BenchCart | null
}

/** Both carts as query parameters, the second inside the first. */
function cartsToQuery({ cart, beside }: Carts): string {
  const query = new URLSearchParams(toQuery(cart))
  if (beside) query.set('beside', toQuery(beside))
  return query.toString()
}

function cartsFromQuery(text: string): Carts | null {
  const cart = fromQuery(text)
  const second = new URLSearchParams(text).get('beside')
  return cart && { cart, beside: second === null ? null : fromQuery(second) }
}

function stateOf(cart: BenchCart, setCart: (change: (old: BenchCart) => BenchCart) => void): BenchState {
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
          at === place ? withOnly({ ...line, ...fields }, (value) => value !== undefined) : line,
        ),
      ),
    remove: (place) => lines((old) => old.filter((_, at) => at !== place)),
    setAddress: (fields) => setCart((old) => ({ ...old, ...fields })),
    replace: (next) => setCart(() => next),
    clear: () => setCart((old) => ({ ...old, lines: [], discount: '' })),
  }
}

/** Holds the bench cart and the one beside it; they are in the page's address, to be shared, and kept between visits. */
export function BenchCartProvider({ setup, children }: { setup: Setup; children: ReactNode }) {
  const [carts, setCarts] = useState<Carts>(
    () =>
      cartsFromQuery(location.search) ??
      remembered() ?? { cart: benchOf(setup.opening_cart, setup.store?.country ?? ''), beside: null },
  )
  const { pathname, hash } = useLocation()

  useEffect(() => {
    const query = cartsToQuery(carts)
    window.history.replaceState(window.history.state, '', `${pathname}${query ? `?${query}` : ''}${hash}`)
    try {
      localStorage.setItem(KEY, query)
    } catch {
      // Storage may be switched off; the address still holds the carts.
    }
  }, [carts, pathname, hash])

  const { cart, beside } = carts
  const state = useMemo(
    () => stateOf(cart, (change) => setCarts((old) => ({ ...old, cart: change(old.cart) }))),
    [cart],
  )
  const second = useMemo<Beside>(
    () => ({
      beside:
        beside &&
        stateOf(beside, (change) =>
          setCarts((old) => ({ ...old, beside: old.beside && change(old.beside) })),
        ),
      open: () => setCarts((old) => ({ ...old, beside: old.beside ?? old.cart })),
      close: () => setCarts((old) => ({ ...old, beside: null })),
      swap: () => setCarts((old) => (old.beside ? { cart: old.beside, beside: old.cart } : old)),
    }),
    [beside],
  )
  return (
    <BesideContext.Provider value={second}>
      <BenchContext.Provider value={state}>{children}</BenchContext.Provider>
    </BesideContext.Provider>
  )
}
