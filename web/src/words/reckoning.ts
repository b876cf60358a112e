import type { MethodQuote, Quote, ReckoningStep, Schemas, Setup, Zone } from '../api/client'
import { namesOf } from './offers'
import { measureWords } from './measures'
import { isZero, type Formats } from '../ui/format'
import { counted, list, placeName } from '../ui/locale'

type Code = ReckoningStep['code']
type NumbersOf<C extends Code> = Extract<ReckoningStep, { code: C }>['numbers']
/** Sentences for some kinds of line, each from its own numbers. */
type Tells<C extends Code> = { [K in C]: (numbers: NumbersOf<K>, formats: Formats) => string }

const LEVELS = { variant: 'the variant itself', product: 'the product', class: 'its class' }

/** What carriers did not answer with. */
export const TROUBLES = {
  silent: 'The carrier is silent or down',
  refused: 'The carrier refuses this address or these goods',
  unusable: 'The answer is unusable',
  fault: 'A fault of this server, not of a carrier',
}

const COMBINED = {
  sum: 'Added up',
  highest: 'Of these the highest alone',
  lowest: 'Of these the lowest alone',
  dearest_first: 'One first unit, at the highest price of all; every other unit as a further one',
}

const COUNTING = { unit: '', graduated: ', each unit by its own step', whole: ', all by the step reached' }
const CHOSEN = { cheapest: 'the cheapest', fastest: 'the fastest', first: 'the first in your list' }

/** What the schedules' lines have in common: which goods, and how often their amount counts. */
interface Loaded {
  label?: string
  times: number
  amount_of_one: string
}

const loaded = ({ label }: Loaded) => (label ? `${label}: ` : '')
const times = ({ times, amount_of_one: one }: Loaded, formats: Formats) =>
  times > 1 ? `, ${times} × ${formats.money(one)}` : ''
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
const said = (text: string | null) => (text ? `: ${text}` : '')

/** A figure of a measure: money where it is a value. */
function figure(measure: string, text: string, formats: Formats): string {
  return measure === 'value' ? formats.money(text) : text
}

function stretch({ measure, start, finish, edges }: NumbersOf<'schedule.steps'>, formats: Formats): string {
  const from = figure(measure, start, formats)
  const to = finish && figure(measure, finish, formats)
  if (edges === 'from') return to ? `from ${from} to less than ${to}` : `from ${from}`
  const above = /^0(\D|$)/.test(start) ? '' : `above ${from}`
  return [above, to && `up to ${to}`].filter(Boolean).join(' ') || 'from nothing on'
}

function added(
  what: string,
  { fixed, count, percent, of, added }: NumbersOf<'adjust.handling'>,
  formats: Formats,
): string {
  const parts = [
    fixed && `${count > 1 ? `${count} × ` : ''}${formats.money(fixed)}`,
    percent && `${percent} % of ${formats.money(of)}`,
  ]
  const sum = formats.money(added)
  return `${what}: ${list(parts)}${list(parts) === sum ? '' : `, ${sum}`}`
}

const lines: Tells<Extract<Code, `lines.${string}` | `treated.${string}` | `rate.${string}`>> = {
  'lines.need_no_shipping': ({ names }) => `Left out, needs no shipping: ${list(names)}`,
  'lines.ordinary': ({ lines, quantity, value, weight, apart }, formats) =>
    `${counted(lines, 'line')} ${apart ? 'left for the ordinary rate' : 'to ship'}: ${counted(quantity, 'unit')}, ${formats.money(value)}, ${weight ?? 'weight not known'}`,
  'lines.none_ordinary': () => 'No line is left for the ordinary rate, so it takes nothing',
  'lines.apart': ({ name, treatment, level }) =>
    `Priced apart, so not in the ordinary rate: ${name}, by “${treatment}” on ${LEVELS[level]}`,
  'lines.along': ({ name, treatment, level }) =>
    `Goes along with the cart: ${name}, by “${treatment}” on ${LEVELS[level]}`,
  'treated.apart': ({ treatment, names, parts, counting }, formats) =>
    `“${treatment}” for ${list(names)}: ${parts.map(({ units, each }) => `${units} × ${formats.money(each)}`).join(' + ')}${COUNTING[counting]}`,
  'treated.fee': ({ treatment, name, units, each }, formats) =>
    `“${treatment}” on top for ${name}: ${units} × ${formats.money(each)}`,
  'rate.narrowed': () => 'Offered in a part of the zone only; priced as if the cart went there',
  'rate.narrowed_perhaps': ({ field }) =>
    `Offered in a part of the zone only: the ${field} decides whether the cart goes there`,
}

const prices: Tells<
  Extract<Code, `schedule.${string}` | `plan.${string}` | `adjust.${string}` | `price.${string}`>
> = {
  'schedule.flat': (n, formats) =>
    n.label || n.class || n.times > 1
      ? `${loaded(n)}one amount in ${n.zone}${times(n, formats)}`
      : `Flat price in ${n.zone}, whatever the cart holds`,
  'schedule.first': (n, formats) =>
    capital(
      `${loaded(n)}first unit ${formats.money(n.first)}, ${n.more} more at ${formats.money(n.additional)}${times(n, formats)}`,
    ),
  'schedule.steps': (n, formats) => {
    const more = n.each
      ? ` and ${n.started} × ${formats.money(n.each)} for each started ${n.increment?.replace(/^1 /, '')}`
      : ''
    const percent = n.percent ? ` and ${n.percent} % of ${formats.money(n.of ?? '')}` : ''
    return capital(
      `${loaded(n)}${measureWords(n.measure)} ${figure(n.measure, n.number, formats)}, in the step ${stretch(n, formats)}: ${formats.money(n.base)}${more}${percent}${times(n, formats)}`,
    )
  },
  'schedule.grid': (n, formats) =>
    capital(
      `${loaded(n)}cell of the grid for ${measureWords(n.measure)} ${n.row} and ${n.column}${times(n, formats)}`,
    ),
  'plan.combine': ({ how }) => COMBINED[how],
  'adjust.handling': (n, formats) => added('Handling', n, formats),
  'adjust.minimum': ({ from }, formats) => `Raised to your minimum, from ${formats.money(from)}`,
  'adjust.maximum': ({ from }, formats) => `Lowered to your maximum, from ${formats.money(from)}`,
  'adjust.ending': ({ ending, from }, formats) =>
    `Rounded up to end in ${ending.replace(/^0/, '')}, from ${formats.money(from)}`,
  'price.total': () => 'The shopper pays',
}

const live: Tells<Extract<Code, `live.${string}` | `parcels.${string}`>> = {
  'parcels.stand_in': ({ names, weight, size }) =>
    weight
      ? `No weight known, counted as ${weight} each: ${list(names)}`
      : `No size known, counted as ${size} each: ${list(names)}`,
  'live.own_first': () => 'Your own price comes before the carriers’',
  'live.answer': ({ service, parcels, days, age }) =>
    `${service} asks this for ${counted(parcels, 'parcel')}${days ? `, ${days} business days` : ''}${age > 1 ? `, ${age} s ago` : ''}`,
  'live.silent': (n) => `${n.service} is silent${said(n.said)}`,
  'live.refused': (n) => `${n.service} refuses it${said(n.said)}`,
  'live.unusable': (n) => `${n.service} gives no usable answer${said(n.said)}`,
  'live.fault': (n) => `${n.service} was not asked${said(n.said)}`,
  'live.chosen': ({ service, how, of }) => `${service} is used: ${CHOSEN[how]} of ${of}`,
  'live.markup': (n, formats) => added('Markup', n, formats),
  'live.fallback': ({ trouble }) => `${TROUBLES[trouble]}: the amount you set for that`,
  'live.fallback_plan': ({ trouble }) => `${TROUBLES[trouble]}: your own price instead`,
}

const CHANGES: Record<NumbersOf<'rule.price'>['kind'], (by: string, from: string) => string> = {
  price: (by, from) => `sets ${by} instead of ${from}`,
  add: (by, from) => `adds ${by} to ${from}`,
  off: (by, from) => `takes ${by} off ${from}`,
  floor: (by, from) => `raises ${from} to at least ${by}`,
  cap: (by, from) => `lowers ${from} to at most ${by}`,
}

const policies: Tells<Extract<Code, `offer.${string}` | `rule.${string}` | `finish.${string}`>> = {
  'offer.acted': ({ offer, taken, base, share }, formats) => {
    const apart =
      share && !isZero(share) ? `, beside ${formats.money(share)} for goods that pay their own way` : ''
    return `Offer “${offer}” takes ${formats.money(taken)} off ${formats.money(base)}${apart}`
  },
  'offer.no_gain': ({ offer }) => `Offer “${offer}” is reached, with nothing left to take off`,
  'offer.beaten': ({ offer, price }, formats) =>
    `Offer “${offer}” is reached too, but it would come to ${formats.price(price)}`,
  'offer.below': ({ offer, measure, remaining }, formats) => {
    const more =
      measure === 'quantity'
        ? counted(Number(remaining), 'unit')
        : figure(measure, String(remaining), formats)
    return `Offer “${offer}” is not reached: ${more} more`
  },
  'offer.over': ({ offer }) => `Offer “${offer}” ends below this cart`,
  'offer.unknown': ({ offer }) => `Offer “${offer}” looks at the weight, which is not known`,
  'offer.no_share': ({ offer }) =>
    `Offer “${offer}” does not act: what the goods that pay their own way would cost alone is not known`,
  'offer.renamed': ({ offer, to }) => `Renamed “${to}” by offer “${offer}”`,
  'rule.renamed': ({ rule, to }) => `Renamed “${to}” by rule “${rule}”`,
  'rule.message': ({ rule, text }) => `Rule “${rule}” says “${text}”`,
  'rule.price': ({ rule, kind, percent, given, before }, formats) =>
    `Rule “${rule}” ${CHANGES[kind](percent ? `${percent} %` : formats.money(given ?? ''), formats.money(before))}`,
  'finish.renamed': ({ to, from }) => `Called “${to}” in this zone, not “${from}”`,
}

const TELLS: Tells<Code> = { ...lines, ...prices, ...live, ...policies }

/** One line of a reckoning, as a sentence. The one place where its codes become words. */
export function stepSentence(step: ReckoningStep, formats: Formats): string {
  // A code and its numbers belong together, which a lookup by code can't tell the compiler.
  const tell = TELLS[step.code] as (numbers: ReckoningStep['numbers'], formats: Formats) => string
  return tell(step.numbers, formats)
}

/** Why a method is not available, in words. */
export function causeSentence(cause: Schemas['Cause'], formats: Formats): string {
  switch (cause.code) {
    case 'method_off':
      return 'The method is switched off.'
    case 'rate_off':
      return 'Switched off in this zone.'
    case 'line_barred':
      return `${cause.numbers.name} may not go by it (treatment “${cause.numbers.treatment}”).`
    case 'no_weight':
      return `The weight of ${list(cause.numbers.names)} is not known, and this price needs it.`
    case 'no_size':
      return `The size of ${list(cause.numbers.names)} is not known, and this price needs it.`
    case 'beyond': {
      const { measure, number } = cause.numbers
      return `Not available for a ${measureWords(measure)} of ${figure(measure, number, formats)}.`
    }
    case 'blank_cell':
      return `The cell for ${cause.numbers.row} and ${cause.numbers.column} is blank.`
    case 'cell_none':
      return `Not available for ${cause.numbers.row} and ${cause.numbers.column}.`
    case 'no_class_price':
      return `No price is set for ${list(cause.numbers.names)}.`
    case 'not_carried':
      return `Does not carry ${list(cause.numbers.names)}.`
    case 'outside_areas':
      return 'Not offered in this part of the zone.'
    case 'address_open':
      return `The ${cause.numbers.field} decides whether it goes there.`
    case 'address_decides':
      return 'Depends on where in the zone it goes.'
    case 'too_heavy':
      return `Too heavy for a parcel of ${cause.numbers.most}: ${list(cause.numbers.names)}.`
    case 'hidden_by_rule':
      return `Hidden by rule “${cause.numbers.rule}”.`
    case 'hidden_by_offer':
      return `Hidden, because “${cause.numbers.offer}” makes ${cause.numbers.free} free.`
    case 'closed':
      return `Not offered at this hour (${cause.numbers.at}).`
    case 'after_cutoff':
      return `Its cutoff has passed (it is ${cause.numbers.at}).`
    case 'live_waiting':
      return 'Asking the carriers …'
    case 'no_origin':
      return 'Carriers must know where it is sent from: the shop has no address yet.'
    case 'live_failed':
      return `${TROUBLES[cause.numbers.trouble]}${said(cause.numbers.said)}.`
    case 'no_boxes':
      return 'There is no box to pack into.'
    case 'no_box':
      return `Fits no box: ${list(cause.numbers.names)}.`
    case 'no_price':
      return 'No price is set yet, so it is not offered.'
    case 'unknown_product':
      return `${cause.numbers.sku} is not in the catalogue.`
    case 'nothing_to_ship':
      return 'Nothing on the bench needs shipping.'
  }
}

interface ToldCause {
  text: string
  setting: Schemas['Setting'] | null
}

/** The causes as they are told: lines that the same treatment bars stand together, with the one setting behind them. */
export function toldCauses(causes: Schemas['Cause'][], formats: Formats): ToldCause[] {
  const barred = new Map<string, string[]>()
  for (const { code, numbers, setting } of causes)
    if (code === 'line_barred') {
      const id = setting?.id ?? ''
      barred.set(id, [...(barred.get(id) ?? []), numbers.name])
    }
  return causes.flatMap((cause): ToldCause[] => {
    const { setting } = cause
    if (cause.code !== 'line_barred') return [{ text: causeSentence(cause, formats), setting }]
    const names = barred.get(setting?.id ?? '')
    barred.delete(setting?.id ?? '')
    if (!names) return []
    const all = { ...cause, numbers: { ...cause.numbers, name: list(names) } }
    return [{ text: causeSentence(all, formats), setting }]
  })
}

/** What the merchant is told where a quote has no price to show; nothing where it has. */
export function statusSentence(quote: Quote, setup: Setup): string | null {
  switch (quote.status) {
    case 'priced':
      return null
    case 'empty':
      return 'The bench is empty. Add goods to see what they get.'
    case 'nothing_ships':
      return 'Nothing here needs shipping, so no address is asked for and no method is shown.'
    case 'undetermined': {
      if (quote.landing?.status === 'zone') {
        const open = [...new Set(quote.methods.flatMap((method) => method.provisional))]
        return `The ${list(open)} ${open.length === 1 ? 'decides' : 'decide'} which methods there are here.`
      }
      const names = (quote.landing?.candidates ?? []).map((id) =>
        id ? namesOf([id], setup.zones)[0]! : 'none',
      )
      return `The ${quote.landing?.decides} decides the zone. Still possible: ${list(names, 'or')}.`
    }
    case 'not_served':
      return 'No zone covers this address, so the shopper can’t order.'
    case 'nothing_available':
      return quote.methods.length === 0
        ? 'This zone has no method yet, so the shopper can’t order.'
        : 'No method of this zone is available for this cart.'
  }
}

/** Where the price belongs: the zone that the address lands in, and by what, or a zone it does not go to. */
export function landingSentence(landing: Schemas['Landing'] | null, zone: Zone): string {
  if (landing?.zone !== zone.id) return `If the cart went to ${zone.name}`
  const area = landing.area
  if (area?.kind === 'world') return `Goes to ${zone.name}, because no other zone covers the address`
  const place = placeName(area?.country ?? '')
  const by = landing.clause ? `, postcode “${landing.clause}”` : ''
  // A zone is often called like the country that it is.
  return place === zone.name && !by ? `Goes to ${place}` : `Goes to ${place}${by}, so to ${zone.name}`
}

export function reckoningTitle(method: MethodQuote, formats: Formats): string {
  return `Why ${formats.price(method.price ?? '0')}?`
}
