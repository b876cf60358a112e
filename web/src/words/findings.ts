import { isKeyOf } from '../api/shapes'
import type { Finding, Geography, Setup } from '../api/client'
import { measured, MOMENT_NAMES, namesOf } from './offers'
import { measureWords } from './measures'
import type { Formats } from '../ui/format'
import { count, counted, list, placeName, shortList } from '../ui/locale'
import { dateWords, momentWords } from '../ui/moment'
import { levelWords, moreRegions, regionName } from './zones'

/** A finding in words: what is wrong, and how to mend it. */
export interface Told {
  text: string
  mend: string
}

type Code = Finding['code']
type NumbersOf<C extends Code> = Extract<Finding, { code: C }>['numbers']

/** What a sentence about a finding may look up. */
interface About {
  formats: Formats
  geography: Geography | undefined
  /** The name of the other zone, where there is one. */
  other: string
  setup: Setup
}

/** A sentence for each kind of finding; one that is missing is a type error. */
type Tells = { [C in Code]: (numbers: NumbersOf<C>, about: About) => Told }

interface Some {
  count: number
  names: string[]
}

/** "Anchor, Rope and 3 more" */
const goods = ({ count, names }: Some) => shortList(names, names.length, { of: count })
/** What the audit takes where any goods will do. */
const ANY = 'Any goods'
/** "Anchor and other goods" */
const cartOf = (names: string[]) => {
  const known = names.filter((name) => name !== ANY)
  if (known.length === 0) return 'ordinary goods'
  return list(known.length < names.length ? [...known, 'other goods'] : known)
}
/** "5 products: Anchor, Rope and 3 more" */
const products = (some: Some) => `${counted(some.count, 'product')}: ${goods(some)}`
/** " and 3 more", after the one that is named. */
const andMore = (number: number, what = 'more') =>
  number > 1 ? ` and ${what === 'more' ? `${count(number - 1)} more` : counted(number - 1, what)}` : ''
const quoted = (names: string[]) => list(names.map((name) => `“${name}”`))
const fine = (mend: string) => `Fine if that is meant; otherwise ${mend}`

const zones = {
  covers_world: () => ({
    text: 'Covers everywhere that no other zone names.',
    mend: 'Fine if you ship to any country.',
  }),
  never_wins: ({ country }, { other }) => ({
    text: `Its part in ${placeName(country)} never gets an address: ${other} takes them all.`,
    mend: `Move it above ${other}, or make it narrower than ${other}.`,
  }),
  overlap: ({ country, level }, { other }) => ({
    text: `Meets ${other} in ${placeName(country)}, both by ${levelWords(level)}. ${other} stands higher and wins.`,
    mend: 'Take the shared part out of one of them, or move the one that should win up.',
  }),
  clauses_hidden: ({ country, clauses, count: all }, { other }) => {
    const one = all === 1
    const shown = shortList(clauses, 4, { of: all, rest: (left) => counted(left, 'more clause') })
    return {
      text: `${shown} in ${placeName(country)} never ${one ? 'gets' : 'get'} an address: ${other} takes ${one ? 'it' : 'them'}.`,
      mend: `Remove ${one ? 'it' : 'them'}, or move this zone above ${other}.`,
    }
  },
  dead_clause: ({ country, clause }) => ({
    text: `“${clause}” matches no valid postcode of ${placeName(country)}.`,
    mend: 'Correct it or remove it.',
  }),
  partly_covered: ({ country }) => ({
    text: `Part of ${placeName(country)} is in no zone because of postcode clauses.`,
    mend: 'Give the rest of the country to a zone, if you ship there.',
  }),
  regions_left_out: ({ country, regions }, { geography }) => {
    const names = regions.map((code) => regionName(geography, country, code))
    return {
      text: `Of ${placeName(country)}, ${shortList(names, 4, { rest: moreRegions })} ${names.length === 1 ? 'is' : 'are'} in no zone.`,
      mend: 'Add them, if you ship there.',
    }
  },
} satisfies Partial<Tells>

const NEVER: Record<NumbersOf<'treatment_never'>['reason'], [text: string, mend: string]> = {
  says_nothing: ['says nothing', 'Give it a price or a restriction, or remove it.'],
  reaches_nothing: ['sits on nothing that ships', 'Put it on products or a class, or remove it.'],
  no_rate: [
    'can never apply: no rate in use is within its zones and methods',
    'Widen what it is limited to, or add the rate.',
  ],
  shadowed: [
    'never sets a price: others come before it everywhere',
    'Move it up, narrow the others, or remove it.',
  ],
}

const catalogue = {
  no_way: (some) => ({
    text: `${goods(some)} can’t go by any method of this zone.`,
    mend: 'Fine if you do not sell them there; otherwise let one of its methods take them.',
  }),
  own_price_barred: (some) => ({
    text: `“${some.treatment}” sets a price for ${goods(some)}, but “${some.by}” does not let ${some.count === 1 ? 'it' : 'them'} go that way.`,
    mend: 'Change one of the two.',
  }),
  treatment_never: ({ treatment, reason }) => ({
    text: `“${treatment}” ${NEVER[reason][0]}.`,
    mend: NEVER[reason][1],
  }),
  no_weight: (some) => ({
    text: `${some.count === 1 ? 'One product has' : `${counted(some.count, 'product')} have`} no weight: ${goods(some)}.`,
    mend: some.rates
      ? `${counted(some.rates, 'rate')} can’t price ${some.count === 1 ? 'it' : 'them'}.`
      : 'No rate looks at weights yet.',
  }),
  no_class: (some) => ({
    text: `${some.count === 1 ? 'One product is' : `${counted(some.count, 'product')} are`} in no class: ${goods(some)}.`,
    mend: 'Fine if they ship like most.',
  }),
  empty_class: (n) => ({
    text: `Class ${n.class} has no products.`,
    mend: 'Move some into it, or remove it.',
  }),
} satisfies Partial<Tells>

const rates = {
  free_beside_paid: ({ rate }) => ({
    text: `${rate} is free for any cart, beside methods that cost something.`,
    mend: 'Fine if that is meant. If zero stands for “not set”, give it a price.',
  }),
  no_rate: () => ({
    text: 'No method is available here, so shoppers can’t order.',
    mend: 'Add a method, or switch the zone off.',
  }),
  blank_cells: ({ rate, count: cells }) => ({
    text: `${counted(cells, 'cell')} of ${rate} ${cells === 1 ? 'is' : 'are'} blank: carts that come there get no price.`,
    mend: 'Fill them, or write “none” where it is not available.',
  }),
  no_class_price: (some) => ({
    text: `${some.rate} has no price for ${goods(some)}.`,
    mend: 'Give their class a price, or say what everything else pays.',
  }),
  not_carried: (some) => ({
    text: `${some.rate} does not carry ${goods(some)}.`,
    mend: 'Fine if that is meant.',
  }),
  loss: ({ rate, count: many, name, price, cost }, { formats }) => ({
    text: `${rate} takes less than it costs you for ${counted(many, 'product')}: ${name} pays ${formats.money(price)} and costs ${formats.money(cost)}.`,
    mend: 'Raise the price, or correct the cost.',
  }),
  ends_early: (some) => ({
    text: `${some.rate} ends at ${some.top}; ${goods(some)} ${some.count === 1 ? 'is' : 'are'} beyond that.`,
    mend: 'Add a step, if it can take them.',
  }),
  falling: ({ rate, measure, at, before, after }, { formats }) => ({
    text: `${rate} gets cheaper at a ${measureWords(measure)} of ${at}: ${formats.money(before)}, then ${formats.money(after)}.`,
    mend: 'One of the two amounts is probably a slip.',
  }),
  out_of_reach: ({ rate, measure, at }) => ({
    text: `No cart reaches the step of ${rate} at a ${measureWords(measure)} of ${at}.`,
    mend: 'Remove it, or correct its edge.',
  }),
  rates_alike: ({ names }) => ({
    text: `${list(names)} have the same price.`,
    mend: 'A shopper sees no reason for both.',
  }),
  own_price_far: ({ rate, name, treatment, price, ordinary, count: many }, { formats }) => ({
    text: `“${treatment}” makes ${name}${andMore(many)} pay ${formats.money(price)} by ${rate}; the ordinary price would be ${formats.money(ordinary)}.`,
    mend: 'Fine if that is meant.',
  }),
  free_unpriced: (some) => ({
    text: `${some.rate} ships ${counted(some.count, 'product')} free that ${some.count === 1 ? 'has' : 'have'} no class or no price: ${goods(some)}.`,
    mend: 'Give them a class and a price, or a treatment that says they ship free.',
  }),
} satisfies Partial<Tells>

const UNUSED: Record<NumbersOf<'offer_never'>['reason'], string> = {
  no_rate: 'none of its methods has a rate in use in its zones',
  no_goods: 'no product in the catalogue brings a cart to it',
}

const offers = {
  offer_never: ({ offer, reason }) => ({
    text: `“${offer}” can never apply: ${UNUSED[reason]}.`,
    mend: 'Change its zones, methods or threshold, or switch it off.',
  }),
  offer_over: ({ offer, ends }) => ({
    text: `“${offer}” ended ${momentWords(ends)}.`,
    mend: 'Remove it, or give it a new end.',
  }),
  offer_spoilt: ({ offer }) => ({
    text: `“${offer}” can only be reached with goods that keep the cart out of it.`,
    mend: 'Let fewer goods block it, or let them pay their own way.',
  }),
  offer_closes: ({ offer, measure, below }, { formats }) => ({
    text: `“${offer}” ends at ${measured(measure, below, formats)}: a bigger order pays for shipping again.`,
    mend: 'Leave the end open, or let another offer take over from there.',
  }),
  offer_loss: ({ offer, name, count: many, cost, brings, value }, { formats }) => {
    const earns = brings
      ? `the goods bring you ${formats.money(brings)}`
      : `the goods are worth ${formats.money(value ?? '')}`
    return {
      text: `“${offer}” ships ${name}${andMore(many, 'more product')} free. That costs ${formats.money(cost)}, and ${earns}.`,
      mend: 'Let such goods block the offer or pay their own way, or raise the threshold.',
    }
  },
  offer_unclassed: (some) => ({
    text: `“${some.offer}” leaves classes out, and ${counted(some.count, 'product')} without a class ${some.count === 1 ? 'slips' : 'slip'} through: ${goods(some)}.`,
    mend: 'Give them a class.',
  }),
  pays_more: ({ offer, name, price, more }, { formats }) => ({
    text: `With “${offer}”, a shopper who adds ${name} for ${formats.money(price)} pays ${formats.money(more)} more for shipping.`,
    mend: 'Let it pay its own way instead of blocking the offer.',
  }),
  milepost_over: ({ offer, moment, text, measure, from }, { formats }) => ({
    text: `“${offer}” says “${text}” ${moment === 'label' ? 'as its name for shoppers' : `in “${MOMENT_NAMES[moment]}”`}, but it is reached at exactly ${measured(measure, from, formats)}.`,
    mend: 'Write “from” or “at least”.',
  }),
  coupon_unused: ({ coupon }) => ({
    text: `No offer and no rule asks for coupon ${coupon}.`,
    mend: 'Name it in one, or remove it.',
  }),
} satisfies Partial<Tells>

const FIGHTS: Record<Exclude<NumbersOf<'rules_fight'>['over'], 'only'>, string> = {
  price: 'set two different prices',
  rename: 'give two different names',
  bounds: 'set a lowest price above the other’s highest',
}

const rules = {
  rule_never: ({ rule }) => ({
    text: `“${rule}” can never hold: its conditions contradict each other.`,
    mend: 'Change one of them.',
  }),
  rule_always: ({ rule }) => ({
    text: `“${rule}” always holds, whatever the cart.`,
    mend: fine('add a condition.'),
  }),
  rule_hidden: ({ rule, by }) => ({
    text: `“${rule}” never shows: whenever it holds, “${by}” above it hides all that it changes.`,
    mend: 'Move it up, or change one of the two.',
  }),
  rules_fight: ({ rule, other, over, method }) => ({
    text:
      over === 'only'
        ? `“${rule}” and “${other}” each offer only methods that the other hides: together they leave none.`
        : `“${rule}” and “${other}” ${FIGHTS[over]}${method ? ` for ${method}` : ''}. The lower one wins.`,
    mend: 'Let their conditions exclude each other.',
  }),
  rule_open: ({ rule }) => ({
    text: `“${rule}” could only be checked in part: its conditions tie together facts that the check does not combine.`,
    mend: '',
  }),
  all_hidden: ({ names, zones }) => ({
    text: `In ${list(zones)} a cart can get no method at all, because of ${quoted(names)}.`,
    mend: 'Leave at least one method.',
  }),
} satisfies Partial<Tells>

const TROUBLES = { silent: 'carriers are silent', unusable: 'their answer can’t be used' }
const WINNER = {
  cheapest: 'another service was always cheaper',
  fastest: 'another service was always faster',
  first: 'a service above it always answered',
}

const live = {
  live_no_fallback: ({ rate, troubles }) => ({
    text: `${rate} is not available when ${list(
      troubles.map((trouble) => TROUBLES[trouble]),
      'or',
    )}.`,
    mend: 'Give it an amount or a price of your own for that.',
  }),
  live_carrier_off: ({ rate, names }) => ({
    text: `${rate} asks ${list(names)}, which ${names.length === 1 ? 'is' : 'are'} switched off.`,
    mend: names.length === 1 ? 'Switch it on, or do not ask it.' : 'Switch them on, or do not ask them.',
  }),
  live_unmeasured: (some) => ({
    text: `${some.rate} can’t ask about ${products(some)}.`,
    mend: 'Give them a weight, and a size where they are packed into boxes.',
  }),
  live_never_wins: ({ rate, names, how }) => ({
    text: `${rate} asked ${list(names)} lately, and ${WINNER[how]}.`,
    mend: 'Fine as a reserve; otherwise do not ask it.',
  }),
  live_loss: ({ rate, name, weight, price, cost, count: many }, { formats }) => ({
    text: `${rate} takes ${formats.money(price)} for one ${name} (${weight}), and the cheapest carrier took ${formats.money(cost)} for it${many > 1 ? `; the same goes for ${counted(many - 1, 'more product')}` : ''}.`,
    mend: 'Raise the price, or let a carrier price it.',
  }),
  live_all_refuse: ({ rate, count: many, names, grams, said }) => ({
    text: names
      ? `Every service of ${rate} refuses ${goods({ count: many ?? names.length, names })}${said ? `: “${said}”` : ''}.`
      : `${rate} asked about a parcel of ${(grams ?? 0) / 1000} kg lately, and every service refused it${said ? `: “${said}”` : ''}.`,
    mend: 'Ask a service that takes it, or give it a price of your own for that.',
  }),
  no_box_for: (some) => ({
    text: `No box takes ${goods(some)}.`,
    mend: `Add a box, or let ${some.count === 1 ? 'it ship in a carton of its own' : 'them ship in cartons of their own'}.`,
  }),
} satisfies Partial<Tells>

const FREE: Record<NumbersOf<'free_by_accident'>['what'], (figure: string, name: string) => string> = {
  step: (figure, name) => `${name} is free in the step from ${figure}, and costs something in others.`,
  first_step: (_, name) => `${name} is free in its first step, and costs something in others.`,
  class: (figure, name) => `${name} is free for class ${figure}, and costs something for other goods.`,
  others: (_, name) => `${name} is free for everything else, and costs something for the classes it names.`,
  cell: (_, name) => `${name} is free in a cell of its grid, and costs something in others.`,
  handling: (_, name) => `Handling of −100 % leaves nothing of the price of ${name}.`,
  markup: (_, name) => `A markup of −100 % leaves nothing of what carriers ask for ${name}.`,
  ladder: (_, name) => `${name} is free when carriers give no price.`,
  offer: (_, name) => `“${name}” makes shipping free for every cart: it has no condition.`,
  rule: (_, name) => `“${name}” makes shipping free for every cart: it has no condition.`,
  treatment: (figure, name) => `“${name}” ships everything of class ${figure} free.`,
  all: (_, name) => `${name} is free for every cart.`,
}

const FIGURES: Record<NumbersOf<'figure_far'>['what'], (at: string) => string> = {
  flat: () => 'the price',
  first: () => 'the first unit',
  additional: () => 'each additional unit',
  step: (at) => `the step at ${at}`,
  each: (at) => `the amount per increment from ${at}`,
  cell: () => 'a cell',
  class: (at) => `class ${at}`,
  others: () => 'everything else',
  handling: () => 'handling',
  minimum: () => 'the minimum',
  maximum: () => 'the maximum',
  fallback: () => 'the fallback',
  threshold: () => 'the threshold',
  cap: () => 'the most it takes off',
  amount: () => 'the amount',
  rule: () => 'the amount',
}

const BESIDE: Record<NumbersOf<'figure_far'>['place'], (amounts: string) => string> = {
  schedule: (amounts) => `beside ${amounts}`,
  zones: (amounts) => `and ${amounts} elsewhere`,
  methods: (amounts) => `and others here take ${amounts}`,
  classes: (amounts) => `and other classes ${amounts}`,
  prices: (amounts) => `and prices come to ${amounts}`,
  goods: (amounts) => `and the dearest product costs ${amounts}`,
  carriers: (amounts) => `and carriers took ${amounts} here lately`,
  orders: (amounts) => `and orders paid ${amounts} for it lately`,
}

const NOBODY: Record<NumbersOf<'nobody_buys'>['why'], [text: string, mend: string]> = {
  no_zone: ['no zone is switched on', 'Switch on a zone, or add one.'],
  no_method: ['every method is switched off', 'Switch on a method.'],
  no_rate: ['no zone has a method that is switched on', 'Add a method to a zone.'],
  no_price: ['no rate has a price', 'Give a rate a price.'],
  hours: ['every method is closed at every hour', 'Change the hours of a method.'],
}

const TAKEN: Record<string, (name: string) => string> = {
  line_barred: (name) => `“${name}” does not let goods travel`,
  hidden_by_rule: (name) => `rule “${name}” hides methods`,
  hidden_by_offer: (name) => `offer “${name}” hides methods`,
  closed: (name) => `${name} is closed at that hour`,
  after_cutoff: (name) => `${name} is past its cutoff`,
  not_carried: (name) => `${name} does not carry a class`,
  no_box: (name) => `no box is large enough for ${name}`,
  out_of_area: (name) => `${name} is offered in a part of the zone only`,
}

const taken = (by: { code: string; name: string }[]) =>
  list(by.map(({ code, name }) => (TAKEN[code] ?? ((one: string) => `the price of ${one} ends`))(name)))

/** How many other goods are like those that are named. */
const alike = ({ count: all, names }: Some) =>
  all > names.length ? ` The same goes for ${counted(all - names.length, 'more product')}.` : ''

const whole = {
  free_by_accident: ({ name, what, figure }) => ({
    text: FREE[what](figure ?? '', name),
    mend: fine('give it a price, or a condition.'),
  }),
  figure_far: ({ name, what, figure, at, place, beside, meant }, { formats }) => ({
    text: `${name}: ${FIGURES[what](at ?? '')} is ${formats.money(figure)}, ${BESIDE[place](list(beside.map((one) => formats.money(one))))}.`,
    mend: meant
      ? `Did you mean ${formats.money(meant)}? The decimal point may be missing or misplaced.`
      : 'Check the figure.',
  }),
  nobody_buys: ({ why }) => ({ text: `Nobody can buy anything: ${NOBODY[why][0]}.`, mend: NOBODY[why][1] }),
  zone_off: ({ rates: number }) => ({
    text: `This zone is off, with ${counted(number, 'price')} set up.`,
    mend: 'Switch it on when you ship there.',
  }),
  zone_off_relied: ({ country }) => ({
    text: `This zone is off, and no other zone takes its part of ${placeName(country)}.`,
    mend: 'Switch it on, or give its places to another zone.',
  }),
  rule_over: ({ rule, last }) => ({
    text: `“${rule}” can’t hold any more: its last day was ${dateWords(last)}.`,
    mend: 'Remove it, or give it a new last day.',
  }),
  takes_nothing: ({ name, what }) => ({
    text:
      what === 'handling'
        ? `The handling of ${name} adds nothing.`
        : `“${name}” changes no price: its amount is zero.`,
    mend: 'Give it an amount, or remove it.',
  }),
  rules_cancel: ({ rule, other }) => ({
    text: `“${rule}” takes back what “${other}” does, for the same carts.`,
    mend: 'Remove both, or change one.',
  }),
  unmeasured: ({ name }) => ({
    text: `“${name}” looks at weights, and no product has one.`,
    mend: 'Give products a weight.',
  }),
  coupon_before_offer: ({ offer, coupon, ends, starts }) => ({
    text: `“${offer}” starts ${momentWords(starts)}, and coupon ${coupon} ends ${momentWords(ends)}.`,
    mend: 'Extend the coupon, or start the offer earlier.',
  }),
  coupons_alike: ({ coupon, other }) => ({
    text: `Coupons ${other} and ${coupon} are easy to mix up.`,
    mend: 'Rename one of them.',
  }),
  bound_swallows: ({ rate, what, figure, prices }, { formats }) => ({
    text: `${rate} always costs its ${what}, ${formats.money(figure)}: its prices run from ${formats.money(prices[0]!)} to ${formats.money(prices[1]!)}.`,
    mend: `Change the ${what}, or the prices.`,
  }),
  per_unit: ({ rate, amount, other, zones: where }, { formats, setup }) => ({
    text: `${rate} takes ${formats.money(amount)} per unit; ${other} in ${list(namesOf(where, setup.zones))} takes about as much per order.`,
    mend: fine('charge per order.'),
  }),
  divisor_odd: ({ divisor, per, least, most, rate }) => ({
    text: `${rate ? `${rate} divides` : 'Parcels divide'} by ${divisor} for volumetric weight; carriers use ${least} to ${most} (${per === 'kg' ? 'cm³ per kg' : 'in³ per lb'}).`,
    mend: 'Check the divisor with your carrier.',
  }),
  own_country_left_out: ({ country }) => ({
    text: `${placeName(country).replace(/^t/, 'T')}, the shop’s own country, is in no zone.`,
    mend: 'Add it to a zone.',
  }),
  live_no_origin: ({ rate }) => ({
    text: `${rate} can’t ask carriers: the shop has no address that parcels are sent from.`,
    mend: 'Fill it in among the details of the shop.',
  }),
  live_unknown_service: ({ rate, carrier, service }) => ({
    text: `${rate} asks ${carrier} for the service “${service}”, which is not among its services.`,
    mend: 'Take it out, or add it to the carrier.',
  }),
  no_size: ({ rates: number, ...some }) => ({
    text: `${products(some)} ${some.count === 1 ? 'has' : 'have'} no size, and ${counted(number, 'rate')} ${number === 1 ? 'looks' : 'look'} at sizes.`,
    mend: 'Give them a size.',
  }),
  nothing_left: ({ by, ...some }) => ({
    text: `A cart with ${cartOf(some.names)} can be sent nowhere: ${taken(by)}.${alike(some)}`,
    mend: 'Leave one method for such carts.',
  }),
  zone_ends: ({ by, ...some }) => ({
    text: `Every price ends below a cart with ${cartOf(some.names)}: ${taken(by)}.${alike(some)}`,
    mend: 'Give one of the methods a price beyond that, if you ship it.',
  }),
  zone_in_part: () => ({
    text: 'Every method is narrowed to a part of this zone, and the rest has none.',
    mend: 'Offer one method in the whole zone, or make the zone smaller.',
  }),
  offer_coupon_off: ({ offer, coupons }) => ({
    text: `“${offer}” asks for ${counted(coupons.length, 'coupon')} that nobody can use any more: ${list(coupons)}.`,
    mend: 'Switch the coupon on, or the offer off.',
  }),
  offer_beaten: ({ offer, by }) => ({
    text: `“${offer}” never counts: “${by}” always makes the same methods cheaper.`,
    mend: 'Switch it off, or let the two combine.',
  }),
  offer_no_gain: ({ offer, amount }, { formats }) => ({
    text: `“${offer}” never makes anything cheaper${amount ? `: its ${formats.money(amount)} is no less than the prices it stands for` : ''}.`,
    mend: 'Lower it, or switch it off.',
  }),
  text_amount: ({ offer, moment, text, figure, from }, { formats }) => ({
    text: `“${offer}” says “${text}” ${moment === 'label' ? 'as its name for shoppers' : `in “${isKeyOf(MOMENT_NAMES, moment) ? MOMENT_NAMES[moment] : moment}”`}: it names ${formats.money(figure)}, and is reached at ${formats.money(from)}.`,
    mend: 'Write the same amount, or the placeholder {threshold}.',
  }),
} satisfies Partial<Tells>

const TELLS: Tells = { ...whole, ...zones, ...catalogue, ...rates, ...offers, ...rules, ...live }

/** The one place where what the audit finds becomes words. */
export function findingSentence(
  finding: Finding,
  setup: Setup,
  formats: Formats,
  geography?: Geography,
): Told {
  const other = finding.other ? namesOf([finding.other], setup.zones).join() : 'another zone'
  // A code and its numbers belong together, which a lookup by code can't tell the compiler.
  const tell = TELLS[finding.code] as (numbers: Finding['numbers'], about: About) => Told
  return tell(finding.numbers, { formats, geography, other, setup })
}
