import type { Action, Condition, Schemas, Setup, Tree, Verdict } from '../api/client'
import { measured, namesOf } from '../offers/words'
import { formatsOf, type Formats } from '../ui/format'
import { countryName, list } from '../ui/locale'
import { weekdayName } from '../ui/moment'

export type Part = Condition | Tree

export const KINDS = ['all', 'any', 'none'] as const
export type Kind = (typeof KINDS)[number]

export function isTree(part: Part): part is Tree {
  return !('fact' in part)
}

export function kindOf(tree: Tree): Kind {
  return KINDS.find((kind) => tree[kind] !== undefined) ?? 'all'
}

export function partsOf(tree: Tree): Part[] {
  return tree[kindOf(tree)] ?? []
}

/** What a condition on a fact is made of: two bounds, goods, ids of a list, hours or days, or an address. */
export type FactKind = 'measure' | 'goods' | 'list' | 'clock' | 'address'

interface FactWords {
  label: string
  kind: FactKind
  /** Whether it says something by itself, without a list. */
  alone?: boolean
  /** What bounds are counted in. */
  unit?: (store: Store) => string
}

type Store = NonNullable<Setup['store']>
export type Fact = Condition['fact']

/** All facts, in the order in which they are offered. */
export const FACTS: Record<Fact, FactWords> = {
  value: { label: 'order value', kind: 'measure', unit: (store) => formatsOf(store).symbol },
  weight: { label: 'weight', kind: 'measure', unit: (store) => store.weight_unit },
  quantity: { label: 'quantity', kind: 'measure', unit: () => 'units' },
  longest: { label: 'longest side', kind: 'measure', unit: (store) => store.length_unit },
  class: { label: 'class', kind: 'goods' },
  tag: { label: 'tag', kind: 'goods' },
  product: { label: 'product', kind: 'goods' },
  hazard: { label: 'hazard mark', kind: 'goods', alone: true },
  zone: { label: 'zone', kind: 'list' },
  country: { label: 'country', kind: 'address' },
  region: { label: 'region', kind: 'address' },
  postcode: { label: 'postcode', kind: 'address' },
  po_box: { label: 'PO box', kind: 'address', alone: true },
  group: { label: 'customer group', kind: 'list' },
  coupon: { label: 'coupon', kind: 'list' },
  weekday: { label: 'day of the week', kind: 'list' },
  time: { label: 'time of day', kind: 'clock' },
  date: { label: 'date', kind: 'clock' },
}

function boundsWords(condition: Condition, formats: Formats): string {
  const write = (text: string) => measured(condition.fact, text || '…', formats)
  const low =
    condition.from !== undefined
      ? `at least ${write(condition.from)}`
      : condition.over !== undefined
        ? `more than ${write(condition.over)}`
        : ''
  const high =
    condition.up_to !== undefined
      ? `at most ${write(condition.up_to)}`
      : condition.below !== undefined
        ? `less than ${write(condition.below)}`
        : ''
  return list([low, high].filter(Boolean)) || '…'
}

function ofWords(condition: Condition, setup: Setup): string {
  const of = (condition.of ?? []).map(String)
  const names = {
    class: () => namesOf(of, setup.classes),
    zone: () => namesOf(of, setup.zones),
    group: () => namesOf(of, setup.groups),
    coupon: () => of.map((id) => setup.coupons.find((item) => item.id === id)?.code ?? 'one that is gone'),
    weekday: () => of.map((day) => weekdayName(Number(day))),
    country: () => of.map(countryName),
  }[condition.fact as string]
  return list(names ? names() : of, 'or') || '…'
}

/** One condition as a clause: "the weight is more than 60 kg". */
export function conditionWords(condition: Condition, setup: Setup, formats: Formats): string {
  const every = condition.lines === 'every'
  const who = condition.address === 'billing' ? 'billing address' : 'delivery address'
  switch (condition.fact) {
    case 'value':
    case 'weight':
    case 'quantity':
    case 'longest':
      return `the ${FACTS[condition.fact].label} is ${boundsWords(condition, formats)}`
    case 'class':
      return `${every ? 'everything that ships' : 'something in the cart'} is of class ${ofWords(condition, setup)}`
    case 'tag':
      return `${every ? 'everything that ships' : 'something in the cart'} has the tag ${ofWords(condition, setup)}`
    case 'product':
      return every
        ? `everything that ships is ${ofWords(condition, setup)}`
        : `the cart holds ${ofWords(condition, setup)}`
    case 'hazard':
      return `${every ? 'everything that ships' : 'something in the cart'} bears the hazard mark`
    case 'zone':
      return `it goes to ${ofWords(condition, setup)}`
    case 'group':
      return `the customer is of ${ofWords(condition, setup)}`
    case 'coupon':
      return `coupon ${ofWords(condition, setup)} is in the cart`
    case 'weekday':
      return `it is ${ofWords(condition, setup)}`
    case 'time':
      return `the time is from ${condition.from || '…'} until ${condition.until || '…'}`
    case 'date':
      return `the date is ${[condition.first && `from ${condition.first}`, condition.last && `to ${condition.last}`].filter(Boolean).join(' ') || '…'}`
    case 'country':
      return `the ${who} is in ${ofWords(condition, setup)}`
    case 'region':
      return `the ${who} is in region ${ofWords(condition, setup)} of ${countryName(condition.country ?? '')}`
    case 'postcode':
      return `the postcode of the ${who} is in ${ofWords(condition, setup)}`
    case 'po_box':
      return `the ${who} is a PO box`
  }
}

/** A tree of conditions as one clause; what is nested stands in brackets. */
export function treeWords(tree: Tree, setup: Setup, formats: Formats, inner = false): string {
  const kind = kindOf(tree)
  const parts = partsOf(tree).map((part) =>
    isTree(part) ? treeWords(part, setup, formats, true) : conditionWords(part, setup, formats),
  )
  if (parts.length === 0) return kind === 'any' ? 'never (nothing is listed)' : 'always'
  if (kind === 'none') return `none of these: ${inner ? `(${parts.join('; ')})` : parts.join('; ')}`
  const joined = list(parts, kind === 'all' ? 'and' : 'or')
  return inner && parts.length > 1 ? `(${joined})` : joined
}

function methodsWords(action: Action, setup: Setup): string {
  return action.methods ? list(namesOf(action.methods, setup.methods)) : 'every method'
}

export function actionWords(action: Action, setup: Setup, formats: Formats): string {
  const methods = methodsWords(action, setup)
  const money = action.amount && /^\d/.test(action.amount) ? formats.money(action.amount) : '…'
  const by = action.percent !== undefined ? `${action.percent || '…'} %` : money
  return {
    hide: `hide ${methods}`,
    only: `offer only ${methods}`,
    rename: `call ${methods} “${action.text ?? ''}”`,
    price: `let ${methods} cost ${money}`,
    add: `add ${by} to ${methods}`,
    off: `take ${by} off ${methods}`,
    floor: `let ${methods} cost at least ${money}`,
    cap: `let ${methods} cost at most ${money}`,
    message: `say “${action.text ?? ''}” with ${methods}`,
  }[action.kind]
}

/** A rule as a sentence: "When …: hide Next day." */
export function ruleSentence(rule: Schemas['RuleFields'], setup: Setup, formats: Formats): string {
  const when = treeWords(rule.when ?? { all: [] }, setup, formats)
  const then = (rule.then ?? []).map((action) => actionWords(action, setup, formats))
  const what = list(then) || 'do nothing'
  return when === 'always'
    ? `Always: ${what}.`
    : `${when.startsWith('never') ? 'Never' : `When ${when}`}: ${what}.`
}

const OPEN: Record<string, string> = {
  country: 'the country',
  region: 'the region',
  postcode: 'the postcode',
  street: 'the street line',
  billing_country: 'the billing country',
  billing_region: 'the billing region',
  billing_postcode: 'the billing postcode',
  billing_street: 'the billing street line',
  no_weight: 'the weight of the goods',
  no_longest: 'the size of the goods',
}

/** A fact that the cart does not carry, in words. */
export function factWords(fact: string): string {
  return OPEN[fact] ?? fact
}

/** What became of a rule for the bench cart, and what was missing, in numbers. */
export function verdictSentence(verdict: Verdict, setup: Setup, formats: Formats): string {
  const open = verdict.open ? ` ${factWords(verdict.open)} would decide.` : ''
  if (verdict.held) return `Holds for this cart.${open}`
  const told = (wanted: boolean) =>
    verdict.missing
      .filter((one) => one.wanted === wanted)
      .map(({ condition, here }) => {
        const now = hereWords(condition, here, setup, formats)
        return `${conditionWords(condition, setup, formats)}${now ? ` (here ${now})` : ''}`
      })
  const missing = told(true)
  const against = told(false)
  const why = [
    missing.length && `Missing: ${missing.join('; ')}.`,
    against.length && `Against it: ${against.join('; ')}.`,
  ].filter(Boolean)
  return `Does not hold. ${why.join(' ')}${open}`
}

function hereWords(condition: Condition, here: string, setup: Setup, formats: Formats): string {
  if (!here) return FACTS[condition.fact].kind === 'measure' ? 'not known' : ''
  if (FACTS[condition.fact].kind === 'measure') return measured(condition.fact, here, formats)
  if (['zone', 'group', 'coupon', 'weekday'].includes(condition.fact))
    return ofWords({ fact: condition.fact, of: here.split(', ') }, setup)
  return here
}
