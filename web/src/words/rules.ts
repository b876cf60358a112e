import type { Action, Condition, Schemas, Setup, Tree, Verdict } from '../api/client'
import { codesOf, measured, namesOf } from './offers'
import { formatsOf, type Formats } from '../ui/format'
import { placeName, few, list } from '../ui/locale'
import { weekdayName } from '../ui/moment'

export type Part = Condition | Tree
/** What an action of some kinds is made of. */
export type ActionOf<K extends Action['kind']> = Extract<Action, { kind: K }>

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

/** A condition on some of the facts. */
export type ConditionOn<F extends Fact> = Extract<Condition, { fact: F }>
export type Measured = 'value' | 'weight' | 'quantity' | 'longest'

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

function boundsWords(condition: ConditionOn<Measured>, formats: Formats): string {
  const { fact, from, over, up_to: upTo, below } = condition
  const bound = (words: string, text: string | undefined) =>
    text === undefined ? null : `${words} ${measured(fact, text || '…', formats)}`
  const low = bound('at least', from) ?? bound('more than', over)
  const high = bound('at most', upTo) ?? bound('less than', below)
  return list([low, high].filter((side) => side !== null)) || '…'
}

/** What a condition is on, as one reads it: "Pallet or Long". */
function namesIn(fact: Fact, of: readonly (string | number)[], setup: Setup): string {
  const ids = of.map(String)
  const names = () => {
    switch (fact) {
      case 'class':
        return namesOf(ids, setup.classes)
      case 'zone':
        return namesOf(ids, setup.zones)
      case 'group':
        return namesOf(ids, setup.groups)
      case 'coupon':
        return codesOf(ids, setup)
      case 'weekday':
        return ids.map((day) => weekdayName(Number(day)))
      case 'country':
        return ids.map(placeName)
      default:
        return ids
    }
  }
  return few(names(), 'or') || '…'
}

/** One condition as a clause: "the weight is more than 60 kg". */
export function conditionWords(condition: Condition, setup: Setup, formats: Formats): string {
  const every = 'lines' in condition && condition.lines === 'every'
  const goods = every ? 'everything that ships' : 'something in the cart'
  const who =
    'address' in condition && condition.address === 'billing' ? 'billing address' : 'delivery address'
  const names = 'of' in condition ? namesIn(condition.fact, condition.of, setup) : ''
  switch (condition.fact) {
    case 'value':
    case 'weight':
    case 'quantity':
    case 'longest':
      return `the ${FACTS[condition.fact].label} is ${boundsWords(condition, formats)}`
    case 'class':
      return `${goods} is of class ${names}`
    case 'tag':
      return `${goods} has the tag ${names}`
    case 'product':
      return every ? `everything that ships is ${names}` : `the cart holds ${names}`
    case 'hazard':
      return `${goods} bears the hazard mark`
    case 'zone':
      return `it goes to ${names}`
    case 'group':
      return `the customer is of ${names}`
    case 'coupon':
      return `coupon ${names} is in the cart`
    case 'weekday':
      return `it is ${names}`
    case 'time':
      return `the time is from ${condition.from || '…'} until ${condition.until || '…'}`
    case 'date':
      return `the date is ${[condition.first && `from ${condition.first}`, condition.last && `to ${condition.last}`].filter(Boolean).join(' ') || '…'}`
    case 'country':
      return `the ${who} is in ${names}`
    case 'region':
      return `the ${who} is in region ${names} of ${placeName(condition.country ?? '')}`
    case 'postcode':
      return `the postcode of the ${who} is in ${names}`
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
  return action.methods ? few(namesOf(action.methods, setup.methods)) : 'every method'
}

export function actionWords(action: Action, setup: Setup, formats: Formats): string {
  const methods = methodsWords(action, setup)
  const money = (amount = '') => (/^\d/.test(amount) ? formats.money(amount) : '…')
  const by = ({ amount, percent }: ActionOf<'add' | 'off'>) =>
    percent === undefined ? money(amount) : `${percent || '…'} %`
  switch (action.kind) {
    case 'hide':
      return `hide ${methods}`
    case 'only':
      return `offer only ${methods}`
    case 'rename':
      return `call ${methods} “${action.text}”`
    case 'message':
      return `say “${action.text}” with ${methods}`
    case 'price':
      return `let ${methods} cost ${money(action.amount)}`
    case 'floor':
      return `let ${methods} cost at least ${money(action.amount)}`
    case 'cap':
      return `let ${methods} cost at most ${money(action.amount)}`
    case 'add':
      return `add ${by(action)} to ${methods}`
    case 'off':
      return `take ${by(action)} off ${methods}`
  }
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
  return FACTS[condition.fact].kind === 'list' ? namesIn(condition.fact, here.split(', '), setup) : here
}
