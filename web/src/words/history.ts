import type { Change } from '../api/client'
import { counted } from '../ui/locale'

const KINDS: Record<Change['kind'], string> = {
  store: 'the shop',
  zone: 'zone',
  method: 'method',
  rate: 'rate',
  product: 'product',
  class: 'class',
  tax_class: 'tax class',
  treatment: 'treatment',
  finding: 'finding',
  group: 'customer group',
  coupon: 'coupon',
  offer: 'offer',
  rule: 'rule',
  box: 'box',
  carrier: 'carrier',
  setup: 'setup',
  proof: 'proof',
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
  shipping_class_id: 'class',
  tax_class_id: 'tax class',
  hazardous: 'hazard mark',
  rate: 'rate',
  description: 'description',
  travel: 'ways of travel',
  targets: 'goods',
  cost: 'cost',
  storefront: 'the shop’s own pages',
  threshold: 'threshold',
  effect: 'effect',
  methods: 'methods',
  zones: 'zones',
  groups: 'customer groups',
  coupons: 'coupons',
  promotions: 'other promotions',
  starts: 'start',
  ends: 'end',
  first: 'number of orders',
  blocking: 'goods that block it',
  paying: 'goods that pay their own way',
  own_prices: 'own prices',
  hides_paid: 'hiding paid methods',
  combines: 'combining',
  label: 'name for shoppers',
  label_more: 'name if more is left to pay',
  milepost: 'milepost',
  when: 'conditions',
  then: 'what it does',
  live: 'live prices',
  delivery: 'delivery time',
  duty: 'duty and import tax',
  holiday_region: 'holidays',
  account: 'account',
  address: 'address',
  secret: 'secret',
  services: 'services',
  padding: 'padding',
  outer: 'outer size',
  tare: 'empty weight',
  up_to: 'most weight',
  size: 'size',
  basis: 'what counts as order value',
  expects: 'expected result',
  recorded: 'recorded answers',
  cart: 'cart',
  note: 'note',
  tags: 'tags',
  tags_add: 'tags added',
  tags_remove: 'tags removed',
  treatment_add: 'a treatment put on',
  treatment_remove: 'a treatment taken off',
}

function subject(change: Change): string {
  const { name = '', zone } = change.names
  if (change.kind === 'store') return 'the shop'
  if (change.kind === 'rate') return `${name} in ${zone ?? ''}`
  if (change.names.count && !name) return counted(Number(change.names.count), KINDS[change.kind])
  return `${KINDS[change.kind]} ${name}`
}

function plural(kind: Change['kind']): string {
  return /(class|box)$/.test(kind) ? `${KINDS[kind]}es` : `${KINDS[kind]}s`
}

/** Fields of a thing, in words. */
export function named(fields: string): string {
  return fields
    .split(',')
    .filter(Boolean)
    .map((field) => FIELDS[field] ?? field.replaceAll('_', ' '))
    .join(', ')
}

const valueWords = (value: string) => ({ '': 'none', true: 'yes', false: 'no' })[value] ?? value

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
        : `order of the ${plural(change.kind)}`
    case 'bulk':
      if (change.kind === 'rate')
        return fields === 'copy'
          ? `${subject(change)} copied to ${counted(Number(change.names.count ?? 0), 'zone')}`
          : `prices of ${counted(Number(change.names.count ?? 0), 'rate')}`
      return `${named(fields) || 'cells'} of ${counted(Number(change.names.count ?? 0), 'product')}`
    case 'import':
      if (change.kind === 'setup') return 'the whole setup, from a book file'
      return change.kind === 'treatment' || change.kind === 'box'
        ? `${plural(change.kind)} read from CSV`
        : change.kind === 'rate'
          ? 'schedules read from CSV'
          : `${counted(Number(change.names.count ?? 0), 'product')} read from CSV`
    case 'update': {
      if (change.kind === 'finding') return to === 'true' ? 'woke a finding' : 'snoozed a finding'
      if (fields === 'active') return `switched ${subject(change)} ${to === 'true' ? 'on' : 'off'}`
      const what = named(fields)
      const span = from !== undefined && to !== undefined ? `, ${valueWords(from)} to ${valueWords(to)}` : ''
      return `${what || 'details'} of ${subject(change)}${span}`
    }
  }
}
