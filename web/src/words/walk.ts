import { isKeyOf } from '../api/shapes'
import type { Cart, Schemas, Setup } from '../api/client'
import { measureWords } from './measures'
import type { Formats } from '../ui/format'
import { counted } from '../ui/locale'
import { momentWords } from '../ui/moment'
import { FACTS } from './rules'
import { addressWords } from './zones'

type Reason = Schemas['WalkReason']

const SIDES: Record<string, string> = {
  below: 'just below',
  at: 'exactly at',
  above: 'just above',
  before: 'the minute before',
  first: 'the first minute',
  last: 'the last minute',
  after: 'the minute after',
}

const figure = ({ measure, figure: text = '' }: Reason, formats: Formats) =>
  measure === 'value' ? formats.money(text) : measure === 'quantity' ? counted(Number(text), 'unit') : text

const edge = (reason: Reason, formats: Formats) =>
  `${measureWords(reason.measure)} ${SIDES[reason.side ?? 'at'] ?? ''} ${figure(reason, formats)}`

type Tell = (reason: Reason, setup: Setup, formats: Formats) => string

const CARRIERS: Record<Schemas['MadeUpCarriers'], string> = {
  answered: 'carriers answer, with a made-up price',
  silent: 'no carrier answers',
  refused: 'every carrier refuses',
  unusable: 'what carriers answer makes no sense',
}

const people = (name: string | null | undefined) => name ?? 'no customer group'

const TELLS: Record<Reason['code'], Tell> = {
  base: () => 'an ordinary cart',
  plain: () => 'an ordinary cart',
  edge: (reason, _, formats) => edge(reason, formats),
  increment: (reason, _, formats) =>
    `${measureWords(reason.measure)} ${SIDES[reason.side ?? 'at'] ?? ''} ${counted(reason.count ?? 1, 'increment')} above ${figure(reason, formats)}`,
  worth: ({ times = 1 }) => `worth ${times} times as much`,
  cell: (reason, _, formats) =>
    `${measureWords(reason.measure)} from ${figure(reason, formats)}${reason.column ? ` and ${reason.column}` : ''}`,
  units: ({ count = 1 }) => counted(count, 'unit'),
  others: () => 'other goods beside them',
  least: () => 'the least',
  most: () => 'so much that the maximum holds',
  met: ({ offer }) => `all that “${offer}” asks for`,
  threshold: (reason, _, formats) => `“${reason.offer}”: ${edge(reason, formats)}`,
  discounted: ({ offer }) => `“${offer}”: a discount brings the cart below`,
  unshipped: ({ offer }) => `“${offer}”: a download brings the cart above`,
  group: ({ offer, group_name: name }) => `${offer ? `“${offer}”: ` : ''}${people(name)}`,
  no_coupon: ({ offer }) => `“${offer}” without its coupon`,
  coupon: ({ offer, coupon }) => `${offer ? `“${offer}”: ` : ''}coupon ${coupon}`,
  moment: ({ offer, side = '', at = '' }) => `“${offer}”: ${SIDES[side]}, ${momentWords(at)}`,
  blocked: ({ offer, name }) => `“${offer}” beside ${name}, which blocks it`,
  pays_own_way: ({ offer, name }) => `“${offer}” beside ${name}, which pays its own way`,
  promotion: ({ offer }) => `“${offer}” with another promotion the other way`,
  uses: ({ offer, count = 0 }) => `“${offer}” used ${counted(count, 'time')} before`,
  height: (reason, _, formats) =>
    `“${reason.offer}” at ${figure(reason, formats)} ${measureWords(reason.measure)}`,
  with_treated: ({ offer, name }) => `“${offer}” beside ${name}, at a price of its own`,
  both_offers: ({ offer, other }) => `“${offer}” and “${other}” together`,
  rule_holds: ({ rule }) => `“${rule}” holds`,
  rule_with: ({ rule, fact = '' }) => `“${rule}” by ${factName(fact)}`,
  rule_without: ({ rule, fact = '' }) => `“${rule}” without ${factName(fact)}`,
  rule_bound: ({ rule, fact = '', side = '', figure: text }) =>
    `“${rule}”: ${factName(fact)} ${SIDES[side]} ${text}`,
  rule_clock: ({ rule, figure: text }) => `“${rule}” at ${text}`,
  rule_both: ({ rule, other }) => `“${rule}” and “${other}” together`,
  class: ({ name }) => `class ${name}`,
  classes: ({ name, other }) => `classes ${name} and ${other}`,
  with_none: ({ name }) => `class ${name} beside goods without one`,
  treated: ({ treatment, name, count = 1 }) => `“${treatment}”: ${count} × ${name}`,
  treated_beside: ({ treatment, name }) => `“${treatment}”: ${name} beside other goods`,
  treated_two: ({ treatment, name, other, count = 1 }) => `“${treatment}”: ${count} × ${name} and ${other}`,
  class_group: ({ name, group_name: group }) => `class ${name}, ${people(group)}`,
  coupon_moment: ({ coupon, side = '', at = '' }) => `coupon ${coupon}: ${SIDES[side]}, ${momentWords(at)}`,
  hours: ({ at = '' }) => `at ${at.slice(11)}`,
  shows: ({ name }) => (name ? `what “${name}” does` : 'what a figure of the price does'),
  carriers: ({ carriers = 'answered' }) => CARRIERS[carriers],
  place: ({ inside }) => (inside ? 'an address inside' : 'an address outside'),
}

function factName(fact: string): string {
  return isKeyOf(FACTS, fact) ? FACTS[fact].label : fact
}

/** What one cart of a walk tells apart. */
export function reasonSentence(reason: Reason, setup: Setup, formats: Formats): string {
  return TELLS[reason.code](reason, setup, formats)
}

/** What the cart of a walk is: the goods that count, and where it goes. */
export function walkedCart(cart: Cart, usual?: Cart): string {
  const lines = cart.lines.map(
    ({ sku, name, quantity, weight, unit_price: price }) =>
      `${quantity} × ${sku ?? name}${weight && !sku ? ` ${weight}` : ''}${price && !sku ? ` at ${price}` : ''}`,
  )
  const same = JSON.stringify(cart.destination) === JSON.stringify(usual?.destination)
  const to = cart.destination && !same && addressWords(cart.destination)
  return [lines.join(' + '), to, cart.group, ...(cart.coupons ?? [])].filter(Boolean).join(', ')
}
