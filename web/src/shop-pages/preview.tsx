import { parsed } from '../api/shapes'
import { useEffect, useRef } from 'react'
import { useWorkshop } from '../edits/workshop'
import { documentOf, useBenchCart } from '../cart/cart'
import type { Attributes, PartName } from './parts'

const loaded = new Map<PartName, Promise<void>>()

/** The part's own script, as a shop's page loads it. */
function load(name: PartName): Promise<void> {
  const before = loaded.get(name)
  if (before) return before
  const script = document.createElement('script')
  script.src = `/embed/${name}.js`
  const ready = new Promise<void>((resolve) => {
    script.onload = () => resolve()
    script.onerror = () => {
      loaded.delete(name)
      script.remove()
    }
  })
  loaded.set(name, ready)
  document.head.append(script)
  return ready
}

/** The part as shoppers would see it, with the bench's cart and address, by the draft. */
export function PartPreview({ name, settings }: { name: PartName; settings: Attributes }) {
  const place = useRef<HTMLDivElement>(null)
  const { setup } = useWorkshop()
  const { cart } = useBenchCart()
  const bench = JSON.stringify(documentOf(cart))
  const said = JSON.stringify(settings)
  const { revision } = setup
  useEffect(() => {
    const host = place.current
    if (!host) return
    const part = document.createElement(`gate-mile-${name}`)
    const attributes: Attributes = {
      ...fromBench(name, bench),
      ...parsed<Attributes>(said),
      through: '/api/shopper',
    }
    for (const [key, value] of Object.entries(attributes))
      if (value !== undefined) part.setAttribute(key, value === true ? '' : value)
    if (name === 'address') part.append(...addressForm(bench))
    if (name === 'estimate') part.append('What the product is like stands here.')
    host.replaceChildren(part)
    void load(name)
    return () => host.replaceChildren()
  }, [name, bench, said, revision])
  return <div ref={place} className="shop-part min-h-16 overflow-x-auto" data-part={name} />
}

interface Told {
  lines: { sku?: string | null; quantity: number }[]
  destination?: {
    country?: string | null
    region?: string | null
    postcode?: string | null
    lines?: string[] | null
  }
}

function fromBench(name: PartName, bench: string): Attributes {
  const { lines, destination } = parsed<Told>(bench)
  const [first, ...others] = lines.flatMap(({ sku, quantity }) => (sku ? [{ sku, quantity }] : []))
  switch (name) {
    case 'estimate':
      return {
        ask: 'open',
        sku: first?.sku,
        quantity: first && String(first.quantity),
        basket: JSON.stringify(others),
        country: destination?.country ?? undefined,
        region: destination?.region ?? undefined,
        postcode: destination?.postcode ?? undefined,
      }
    case 'choice':
    case 'milepost':
      return { cart: bench }
    case 'address':
      return {}
  }
}

const FIELDS = [
  ['Street', 'address-line1'],
  ['Region', 'address-level1'],
  ['Postcode', 'postal-code'],
  ['Country', 'country'],
] as const

/** A form as shops have it, with the bench's address in it. */
function addressForm(bench: string): HTMLElement[] {
  const { destination } = parsed<Told>(bench)
  const typed: Record<string, string | null | undefined> = {
    'address-line1': destination?.lines?.[0],
    'address-level1': destination?.region,
    'postal-code': destination?.postcode,
    country: destination?.country,
  }
  return FIELDS.map(([words, token]) => {
    const label = document.createElement('label')
    const list = token === 'country' || token === 'address-level1'
    const field = document.createElement(list ? 'select' : 'input')
    field.setAttribute('autocomplete', token)
    const value = typed[token] ?? ''
    if (field instanceof HTMLSelectElement && value) field.append(new Option(value, value, true, true))
    else if (!list) field.value = value
    label.append(words, field)
    return label
  })
}
