import { byId } from '../api/by-id'
import type { Schemas, Setup } from '../api/client'
import { countryName, shortList } from '../ui/locale'

type Away = Pick<Schemas['TurnedAway'], 'status' | 'causes' | 'zone' | 'country' | 'region' | 'postcode'>

/** Why a method was not there, in a word or two: the cart that shows it tells the rest. */
const CAUSES: Record<string, string> = {
  method_off: 'switched off',
  rate_off: 'switched off',
  line_barred: 'goods that may not travel with it',
  no_weight: 'a weight is missing',
  no_size: 'a size is missing',
  beyond: 'beyond what it is priced for',
  not_carried: 'goods that may not travel with it',
  outside_areas: 'outside the places it is for',
  too_heavy: 'too heavy',
  no_box: 'no box holds it',
  no_boxes: 'no box is there',
  hidden_by_rule: 'hidden by a rule',
  hidden_by_offer: 'hidden by an offer',
  closed: 'closed then',
  after_cutoff: 'after the cutoff',
  live_failed: 'a carrier gave no price',
  live_waiting: 'a carrier gave no price in time',
  no_origin: 'no address to ship from',
  no_price: 'no price is set',
  no_class_price: 'no price for a class',
  blank_cell: 'no price in the grid',
  cell_none: 'not carried by the grid',
  unknown_product: 'goods that are not in the catalogue',
  address_open: 'the address is not whole',
  address_decides: 'the address decides nothing',
}

/** Those that say nothing about the cart. */
const STANDING = ['method_off', 'rate_off']

/** What came of a quote. */
export const OUTCOMES: Record<Schemas['AskedQuotes']['outcome'], string> = {
  priced: 'A price',
  nothing_available: 'No method takes it',
  not_served: 'No zone covers it',
  undetermined: 'Address not whole yet',
  nothing_ships: 'Nothing to ship',
  empty: 'Empty',
}

/** Why a cart was turned away. */
export function causeWords({ status, causes }: Pick<Away, 'status' | 'causes'>): string {
  if (status === 'not_served') return 'no zone covers the address'
  if (status === 'undetermined') return 'the address does not decide the zone'
  const telling = causes.filter((code) => !STANDING.includes(code))
  const words = [...new Set((telling.length ? telling : causes).map((code) => CAUSES[code] ?? code))]
  return words.length ? words.slice(0, 3).join(', ') : 'the zone has no method'
}

/** Where a cart was to go: "Northern Ireland, BT9"; within a sentence the country is named by placeName. */
export function whereWords(
  { zone, country, region, postcode }: Away,
  setup: Setup,
  named = countryName,
): string {
  const name = byId(setup.zones, zone)?.name
  const place = name ?? (country ? named(country) : zone ? 'a zone that is gone' : 'nowhere yet')
  return [place, region && !name ? region : null, postcode].filter(Boolean).join(', ')
}

/** What was in it. */
export function goodsWords({ goods }: Pick<Schemas['TurnedAway'], 'goods'>): string {
  const named = goods.filter(({ sku }) => sku).map(({ sku, name }) => name ?? sku)
  if (!named.length) return goods.length ? 'Goods that are not in the catalogue' : 'Goods of all kinds'
  return shortList(named, 3)
}

/** Where to change it: the zone, or where zones are made. */
export function settingOf({ zone }: Pick<Away, 'zone'>): { path: string; words: string } {
  return zone ? { path: `/#zone=${zone}`, words: 'Its zone' } : { path: '/zones', words: 'Zones' }
}
