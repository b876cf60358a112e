import type { Change } from '../api/client'

const KINDS: Record<Change['kind'], string> = {
  store: 'the shop',
  zone: 'zone',
  method: 'method',
  rate: 'rate',
  product: 'product',
}

const FIELDS: Record<string, string> = {
  plan: 'price',
  name: 'name',
  areas: 'countries',
  active: 'on or off',
  promise: 'promise',
  private_name: 'private name',
  code: 'code',
  sku: 'SKU',
  price: 'price',
  weight: 'weight',
  ships: 'shipping needed',
  method_order: 'order of methods',
}

function subject(change: Change): string {
  const { name = '', zone } = change.names
  if (change.kind === 'store') return 'the shop'
  if (change.kind === 'rate') return `${name} in ${zone ?? ''}`
  return `${KINDS[change.kind]} ${name}`
}

/** One recorded change as a short sentence: "price of Tracked in Ireland, 12.90 to 11.50". */
export function sentenceOfChange(change: Change): string {
  const { fields = '', from, to, zone, zone_on: zoneOn } = change.names
  switch (change.action) {
    case 'create':
      return `added ${subject(change)}${zoneOn ? ', and switched the zone on' : ''}`
    case 'delete':
      return `removed ${subject(change)}`
    case 'reorder':
      return change.kind === 'rate'
        ? `order of the methods in ${zone ?? ''}`
        : `order of the ${KINDS[change.kind]}s`
    case 'update': {
      if (fields === 'active') return `switched ${subject(change)} ${to === 'true' ? 'on' : 'off'}`
      const what = fields
        .split(',')
        .filter(Boolean)
        .map((field) => FIELDS[field] ?? field.replaceAll('_', ' '))
        .join(', ')
      const span =
        from !== undefined && to !== undefined && (from || to) ? `, ${from || 'none'} to ${to || 'none'}` : ''
      return `${what || 'details'} of ${subject(change)}${span}`
    }
  }
}
