import { isKeyOf } from '../api/shapes'
import type { Milepost, Offer, Outlook, Schemas, Setup } from '../api/client'
import type { Formats } from '../ui/format'
import { counted, few, list } from '../ui/locale'
import { momentWords } from '../ui/moment'

type Fields = Schemas['OfferFields']
type Reason = Outlook['reasons'][number]

export function namesOf(ids: readonly string[], items: { id?: string; name?: string }[]): string[] {
  return ids.map((id) => items.find((item) => item.id === id)?.name ?? 'one that is gone')
}

export function codesOf(ids: readonly string[], setup: Setup): string[] {
  return ids.map((id) => setup.coupons.find((coupon) => coupon.id === id)?.code ?? 'one that is gone')
}

/** An amount of a measure as it is typed, with the currency where it is money. */
export function measured(measure: string, amount: string, formats: Formats): string {
  if (measure === 'value') return /^\d+(\.\d+)?$/.test(amount) ? formats.money(amount) : amount
  return measure === 'quantity' && /^\d+$/.test(amount) ? counted(Number(amount), 'unit') : amount
}

export function goodsWords(goods: Schemas['GoodsChoice'], setup: Setup): string {
  const parts = [
    goods.classes?.length ? `class ${few(namesOf(goods.classes, setup.classes), 'or')}` : '',
    goods.tags?.length ? `tag ${few(goods.tags, 'or')}` : '',
    goods.skus?.length ? few(goods.skus, 'or') : '',
    goods.hazardous ? 'the hazard mark' : '',
  ].filter(Boolean)
  return parts.length ? `goods of ${list(parts, 'or')}` : 'goods (none chosen yet)'
}

function effectWords(effect: Schemas['Effect'], formats: Formats): string {
  const what = givesWords(effect, formats)
  return effect.most && /^\d/.test(effect.most) ? `${what} (up to ${formats.money(effect.most)} off)` : what
}

function givesWords(effect: Schemas['Effect'], formats: Formats): string {
  const money = (amount: string) => (/^\d/.test(amount) ? formats.money(amount) : '…')
  switch (effect.kind) {
    case 'free':
      return 'is free'
    case 'fixed':
      return `costs ${money(effect.amount)}`
    case 'off':
      return `costs ${money(effect.amount)} less`
    case 'percent':
      return `costs ${effect.percent || '…'} % less`
  }
}

function basisWords(basis: Schemas['Basis'] | null | undefined): string {
  if (!basis) return ''
  const parts = [
    basis.discounts === 'before' && 'before discounts',
    basis.tax === 'without' && 'without tax',
    basis.lines === 'all' && 'of all goods',
    basis.lines === 'ordinary' && 'of what the ordinary rate prices',
  ].filter((part): part is string => Boolean(part))
  return parts.length ? ` (${parts.join(', ')})` : ''
}

function thresholdWords(threshold: NonNullable<Fields['threshold']>, formats: Formats): string {
  const { measure, from, below } = threshold
  const end = below ? ` to below ${measured(measure, below, formats)}` : ''
  return `from ${measured(measure, from || '…', formats)}${end}${basisWords(threshold.basis)}`
}

/** Whom an offer is for, and when; nothing where it is for everybody at any time. */
export function whomWords(offer: Fields, setup: Setup): string[] {
  const { groups, coupons, promotions, first, starts, ends } = offer
  return [
    groups?.only && `for ${few(namesOf(groups.only, setup.groups))} only`,
    groups?.except && `not for ${few(namesOf(groups.except, setup.groups), 'or')}`,
    coupons && `with coupon ${few(codesOf(coupons, setup), 'or')}`,
    promotions === 'with' && 'together with another promotion',
    promotions === 'without' && 'while no other promotion is in the cart',
    first && `for the first ${first} orders`,
    starts && `from ${momentWords(starts)}`,
    ends && `until ${momentWords(ends)}`,
  ].filter((part): part is string => Boolean(part))
}

/** Which goods keep a cart out of an offer; nothing where none do. */
export function keptOutWords(offer: Fields, setup: Setup): string[] {
  return [
    offer.blocking && `not with ${goodsWords(offer.blocking, setup)} in the cart`,
    offer.paying && `while ${goodsWords(offer.paying, setup)} pay their own way`,
  ].filter((part): part is string => Boolean(part))
}

/** An offer as a sentence that the merchant can read back. */
export function offerSentence(offer: Fields, setup: Setup, formats: Formats): string {
  const by = offer.methods ? few(namesOf(offer.methods, setup.methods), 'or') : 'Every method'
  const to = offer.zones ? ` to ${few(namesOf(offer.zones, setup.zones), 'or')}` : ''
  const parts = [`${by}${to} ${effectWords(offer.effect ?? { kind: 'free' }, formats)}`]
  if (offer.threshold) parts.push(thresholdWords(offer.threshold, formats))
  parts.push(...whomWords(offer, setup), ...keptOutWords(offer, setup))
  const more = [
    offer.own_prices && 'Also covers goods with their own prices and fees.',
    offer.hides_paid && 'Hides paid methods when it makes one free.',
    offer.combines ? 'Adds up with other offers.' : '',
  ].filter(Boolean)
  return `${parts.join(', ')}.${more.length ? ` ${more.join(' ')}` : ''}`
}

/** Why an offer does not act on a cart, in numbers. */
export function reasonSentence(reason: Reason, outlook: Outlook, setup: Setup, formats: Formats): string {
  const { measure, threshold } = outlook
  const amount = (text: string | number) => measured(measure ?? '', String(text), formats)
  switch (reason.code) {
    case 'off':
      return 'It is switched off.'
    case 'other_zone':
      return `It does not hold in ${reason.zone}.`
    case 'other_group':
      return reason.group
        ? `It is not for ${namesOf([reason.group], setup.groups)[0]}.`
        : 'It is for customer groups, and this cart has none.'
    case 'no_coupon':
      return `It needs coupon ${few(codesOf(reason.coupons, setup), 'or')}.`
    case 'coupon_over':
      return `Coupon ${reason.coupon} ended ${momentWords(reason.ends)}.`
    case 'no_promotion':
      return 'It needs another promotion in the cart.'
    case 'promotion':
      return `Another promotion is in the cart: ${few(reason.names)}.`
    case 'early':
      return `It begins ${momentWords(reason.starts)}.`
    case 'late':
      return `It ended ${momentWords(reason.ends)}.`
    case 'used_up':
      return `It was for the first ${reason.first} orders, and ${reason.uses} have used it.`
    case 'blocked':
      return `Kept out by ${few(reason.names)}.`
    case 'no_zone':
      return 'It holds in none of the zones that the address may be in.'
    case 'below':
      return `${amount(reason.remaining)} more: the cart comes to ${amount(reason.here)}${threshold ? ` of ${amount(threshold)}` : ''}.`
    case 'over':
      return `The cart comes to ${amount(reason.here)}, and it ends below ${amount(reason.below ?? '')}.`
    case 'beaten':
      return `Another offer is better: with this one the shopper would pay ${formats.price(reason.price)}.`
    case 'unknown':
      return 'Goods in the cart have no weight, so nobody knows whether it is reached.'
    case 'no_share':
      return 'What the goods that pay their own way would cost alone is not known.'
    case 'no_method':
      return 'None of its methods is available to this cart.'
  }
}

/** How an offer stands with the bench cart, in a few words. */
export function standWords(outlook: Outlook, setup: Setup, formats: Formats): string {
  switch (outlook.state) {
    case 'acted':
      return outlook.methods.length
        ? `acts on ${few(namesOf(outlook.methods, setup.methods))}`
        : 'reached, once the address is known'
    case 'no_gain':
      return 'reached, with nothing left to take off'
    case 'below':
      return `${measured(outlook.measure ?? '', outlook.remaining ?? '', formats)} more`
    default:
      return outlook.reasons.map((reason) => reasonSentence(reason, outlook, setup, formats)).join(' ')
  }
}

export const MOMENTS = ['before', 'away', 'nearly', 'reached', 'not_for_you'] as const
export type Moment = (typeof MOMENTS)[number]

export const MOMENT_NAMES: Record<Moment, string> = {
  before: 'Before anything is in the cart',
  away: 'On the way',
  nearly: 'Nearly there',
  reached: 'Once reached',
  not_for_you: 'Who does not get it',
}

export interface PlaceholderValues {
  remaining: string
  threshold: string
  zone: string
  method: string
}

/** A milepost's text with its placeholders filled in. It is only ever shown as text. */
export function filled(text: string, values: PlaceholderValues): string {
  return text.replace(/\{\s*(\w+)\s*\}/g, (whole, name: string) =>
    isKeyOf(values, name) ? values[name] : whole,
  )
}

/** What the placeholders stand for on the bench cart. */
export function placeholderValues(
  offer: Fields,
  outlook: Outlook | undefined,
  setup: Setup,
  zone: string | null | undefined,
  formats: Formats,
): PlaceholderValues {
  const measure = offer.threshold?.measure ?? ''
  const amount = (value: string | null | undefined) => (value ? measured(measure, value, formats) : '')
  const method = outlook?.methods[0] ?? offer.methods?.[0] ?? setup.methods[0]?.id ?? ''
  const holds = zone && (!offer.zones || offer.zones.includes(zone))
  const where = holds ? zone : offer.zones?.[0]
  return {
    remaining: amount(outlook?.remaining ?? offer.threshold?.from),
    threshold: amount(outlook?.threshold ?? offer.threshold?.from),
    zone: where ? (namesOf([where], setup.zones)[0] ?? '') : '',
    method: namesOf([method], setup.methods)[0] ?? '',
  }
}

export const STANDARD_TEXTS: NonNullable<Milepost['texts']> = {
  before: 'Delivery to {zone} is free from {threshold}',
  away: '{remaining} more and delivery is free',
  nearly: 'Nearly there: {remaining} more and delivery is free',
  reached: 'Delivery is free',
}

export function offerName(id: string, setup: Setup): string {
  return setup.offers.find((offer: Offer) => offer.id === id)?.name ?? 'an offer that is gone'
}
