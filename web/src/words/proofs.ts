import { isKeyOf } from '../api/shapes'
import type { Proof, Schemas, Setup } from '../api/client'
import { namesOf } from './offers'
import type { Formats } from '../ui/format'
import { list, shortList } from '../ui/locale'
import { momentWords, weekdayName } from '../ui/moment'
import { addressWords } from './zones'

type Outcome = Schemas['ProofOutcome']

type Departure = Schemas['Departure']
type Expects = Schemas['Expects']
type ProofMethod = Schemas['ProofMethod']
type Told<C> = Extract<Departure, { code: C }>

export const STATES = { holds: 'holds', changed: 'changed', unclear: 'unclear' } as const

/** What a method can be held to. */
export const KINDS: readonly (readonly [ProofMethod['is'], string])[] = [
  ['exact', 'costs exactly'],
  ['at_most', 'costs at most'],
  ['at_least', 'costs at least'],
  ['free', 'is free'],
  ['offered', 'is offered'],
  ['not_offered', 'is not offered'],
]

const STATUSES: Record<NonNullable<Expects['status']>, string> = {
  priced: 'there is a method to choose',
  nothing_available: 'no method is available',
  not_served: 'the address is in no zone',
  undetermined: 'more of the address is needed',
  nothing_ships: 'nothing needs shipping',
  empty: 'the cart is empty',
}

export function statusWords(status: string): string {
  return isKeyOf(STATUSES, status) ? STATUSES[status] : status
}

const named = (setup: Setup, id: string) => namesOf([id], setup.methods).join()
const zoned = (setup: Setup, id: string | undefined | null) =>
  id ? namesOf([id], setup.zones).join() : 'no zone'

function wantedWords({ kind, amount }: Schemas['WantedPrice'], formats: Formats): string {
  switch (kind) {
    case 'exact':
      return formats.money(amount ?? '')
    case 'at_most':
      return `${formats.money(amount ?? '')} at most`
    case 'at_least':
      return `${formats.money(amount ?? '')} at least`
    case 'free':
      return 'nothing'
    case 'offered':
      return 'offered'
  }
}

type Tells = { [C in Departure['code']]: (told: Told<C>, setup: Setup, formats: Formats) => string }

const TELLS: Tells = {
  status: ({ wanted, gets }) => `It should be so that ${statusWords(wanted)}; now ${statusWords(gets)}`,
  zone: ({ wanted, gets }, setup) => `Should go to ${zoned(setup, wanted)}; goes to ${zoned(setup, gets)}`,
  text: ({ wanted, gets }) =>
    `The shopper should read “${wanted}”; ${gets ? `reads “${gets}”` : 'reads nothing'}`,
  price: ({ method, wanted, gets }, setup, formats) =>
    wanted.kind === 'free'
      ? `${named(setup, method)} should be free; costs ${formats.money(gets)}`
      : `${named(setup, method)} should cost ${wantedWords(wanted, formats)}; ${Number(gets) === 0 ? 'is free' : `costs ${formats.money(gets)}`}`,
  gone: ({ method, wanted }, setup, formats) =>
    `${named(setup, method)} should ${wanted.kind === 'offered' ? 'be offered' : wanted.kind === 'free' ? 'be free' : `cost ${wantedWords(wanted, formats)}`}; it is not offered`,
  offered: ({ method, gets }, setup, formats) =>
    `${named(setup, method)} should not be offered; it is, ${Number(gets) === 0 ? 'free' : `at ${formats.money(gets)}`}`,
  mark: ({ method, wanted }, setup) => `${named(setup, method)} should be the ${wanted}; it is not`,
  message: ({ method, wanted }, setup) => `${named(setup, method)} should carry the message “${wanted}”`,
  order: ({ wanted, gets }, setup) =>
    `Should stand in the order ${list(namesOf(wanted, setup.methods))}; stand as ${list(namesOf(gets, setup.methods))}`,
}

/** One thing in which a cart does not get what it should. */
export function departureSentence(departure: Departure, setup: Setup, formats: Formats): string {
  const tell = TELLS[departure.code] as (told: Departure, setup: Setup, formats: Formats) => string
  return tell(departure, setup, formats)
}

const UNCLEAR: Record<Outcome['unclear'][number]['code'], (names: string) => string> = {
  no_product: (names) => `${names} is not in the catalogue any more`,
  no_class: (names) => `There is no class “${names}”`,
  no_method: () => 'A method that it speaks of is gone',
  no_zone: () => 'The zone that it speaks of is gone',
  no_group: (names) => `There is no customer group “${names}”`,
  no_coupon: (names) => `The coupon “${names}” is not in the register`,
  not_recorded: (names) => `No answer of ${names} to this is recorded`,
}

/** Why it can't be said whether a proof holds. */
export function unclearSentence({ code, names }: Outcome['unclear'][number]): string {
  return UNCLEAR[code](list(names, code === 'not_recorded' ? 'or' : 'and'))
}

/** One method of what a cart is to get: "Tracked £4.50". */
export function methodWords(
  { method, is, amount, marks }: ProofMethod,
  setup: Setup,
  formats: Formats,
): string {
  const name = named(setup, method)
  const price = {
    exact: formats.money(amount ?? ''),
    at_most: `at most ${formats.money(amount ?? '')}`,
    at_least: `at least ${formats.money(amount ?? '')}`,
    free: 'free',
    offered: 'offered',
    not_offered: 'not offered',
  }[is]
  return `${name} ${price}${marks?.length ? `, the ${list(marks)}` : ''}`
}

/** What a cart is to get, in one line. */
export function expectsSentence(expects: Expects, setup: Setup, formats: Formats): string {
  const methods = (expects.methods ?? []).map((one) => methodWords(one, setup, formats))
  const parts = [
    expects.zone && `in ${zoned(setup, expects.zone)}`,
    expects.status && expects.status !== 'priced' && statusWords(expects.status),
    ...methods,
    expects.only && methods.length > 0 && 'and no other method',
    expects.ordered && 'in this order',
    expects.text && `“${expects.text}”`,
  ]
  return parts.filter(Boolean).join('; ')
}

/** The cart of a proof in one line: "3 × CHT-PASS-F, to TR29 4ZZ, United Kingdom, as Trade". */
export function cartSentence({ cart, at, weekdays, time }: Proof): string {
  const lines = cart.lines.map(({ sku, name, quantity }) => `${quantity} × ${name ?? sku ?? ''}`)
  const to = cart.destination && addressWords(cart.destination)
  return [
    shortList(lines, 3) || 'nothing',
    to && `to ${to}`,
    cart.group && `as ${cart.group}`,
    cart.coupons?.length && `with ${list(cart.coupons)}`,
    at && momentWords(at),
    weekdays?.length && `${daysWords(weekdays)} ${time ?? ''}`,
  ]
    .filter(Boolean)
    .join(', ')
}

function daysWords(weekdays: readonly number[]): string {
  if (weekdays.length === 7) return 'any day'
  return weekdays.join() === '1,2,3,4,5' ? 'any weekday' : list(weekdays.map(weekdayName), 'or')
}
