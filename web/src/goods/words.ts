import type { Finding, Setup, Treatment } from '../api/client'
import { rateFindingSentence } from '../plans/words'
import { counted, isZero, type Formats } from '../ui/format'

type Numbers = Record<string, unknown>

function goods(numbers: Numbers): string {
  const names = numbers.names as string[]
  const more = Number(numbers.count) - names.length
  return more > 0 ? `${names.join(', ')} and ${more} more` : names.join(', ')
}

const NEVER: Record<string, { text: string; mend: string }> = {
  says_nothing: { text: 'says nothing', mend: 'Give it a price or a restriction, or remove it.' },
  reaches_nothing: {
    text: 'sits on nothing that ships',
    mend: 'Put it on products or a class, or remove it.',
  },
  no_rate: {
    text: 'can never apply: no rate in use is within its zones and methods',
    mend: 'Widen what it is limited to, or add the rate.',
  },
  shadowed: {
    text: 'never sets a price: others come before it everywhere',
    mend: 'Move it up, narrow the others, or remove it.',
  },
}

/** A finding about goods, classes or treatments in words. */
export function goodsFindingSentence(finding: Finding, formats?: Formats): { text: string; mend: string } {
  const numbers = finding.numbers as Numbers
  const many = Number(numbers.count) !== 1
  switch (finding.code) {
    case 'no_way':
      return {
        text: `${goods(numbers)} can travel by no method of this zone.`,
        mend: 'Fine if you do not sell them there; else let one of its methods take them.',
      }
    case 'own_price_barred':
      return {
        text: `“${numbers.treatment}” sets a price for ${goods(numbers)}, but “${numbers.by}” does not let ${many ? 'them' : 'it'} go that way.`,
        mend: 'One of the two is not meant.',
      }
    case 'treatment_never': {
      const { text, mend } = NEVER[String(numbers.reason)] ?? { text: 'can never apply', mend: '' }
      return { text: `“${numbers.treatment}” ${text}.`, mend }
    }
    case 'no_weight':
      return {
        text: `${many ? `${numbers.count} goods have` : 'One product has'} no weight: ${goods(numbers)}.`,
        mend: Number(numbers.rates)
          ? `${counted(Number(numbers.rates), 'rate')} can't price ${many ? 'them' : 'it'}.`
          : 'No rate looks at weights yet.',
      }
    case 'no_class':
      return {
        text: `${many ? `${numbers.count} goods are` : 'One product is'} in no class: ${goods(numbers)}.`,
        mend: 'Fine if they ship like most.',
      }
    case 'empty_class':
      return {
        text: `Class ${numbers.class} has no products.`,
        mend: 'Move some into it, or remove it.',
      }
    default:
      return rateFindingSentence(finding, formats)
  }
}

function listed(ids: string[], all: { id?: string; name?: string }[]): string {
  return ids.map((id) => all.find((item) => item.id === id)?.name ?? 'one that is gone').join(', ')
}

function chargeWords(charge: NonNullable<Treatment['price']>['charge'], formats: Formats): string {
  if (!charge) return ''
  if (charge.kind === 'unit')
    return isZero(charge.amount ?? '') ? 'free' : `${formats.money(charge.amount ?? '0')} each`
  const steps = (charge.steps ?? []).map(({ from, amount }, index) =>
    index === 0 ? `${formats.money(amount)} each` : `${formats.money(amount)} from ${from}`,
  )
  return `${steps.join(', ')}${charge.kind === 'whole' ? ', all units by the step reached' : ''}`
}

/** What a treatment's goods pay, in words; nothing where it leaves that alone. */
export function paysSentence(treatment: Treatment, formats: Formats, setup: Setup): string {
  const { price } = treatment
  if (!price) return ''
  if (price.kind === 'along')
    return price.plus
      ? `with the cart, and ${formats.money(price.plus)} on top for each`
      : 'with the cart, like other goods'
  const own = (price.by_method ?? []).map(
    ({ method, charge }) => `${listed([method], setup.methods)}: ${chargeWords(charge, formats)}`,
  )
  const together = price.together ? ', all its goods counted together' : ''
  return `apart from the cart: ${[chargeWords(price.charge, formats), ...own].join('; ')}${together}`
}

/** How a treatment's goods may travel, in words; nothing where it leaves that alone. */
export function travelSentence(treatment: Treatment, setup: Setup): string {
  const { only, never } = treatment.travel ?? {}
  const parts = [
    only && (only.length ? `only by ${listed(only, setup.methods)}` : 'by no method at all'),
    never?.length && `never by ${listed(never, setup.methods)}`,
  ]
  return parts.filter(Boolean).join(', ')
}

/** Where a treatment holds, in words; nothing where it holds everywhere. */
export function limitsSentence(treatment: Treatment, setup: Setup): string {
  const parts = [
    treatment.methods && `with ${listed(treatment.methods, setup.methods)}`,
    treatment.zones && `in ${listed(treatment.zones, setup.zones)}`,
  ]
  return parts.filter(Boolean).join(', ')
}

/** What a treatment says, as one sentence. */
export function treatmentSentence(treatment: Treatment, formats: Formats, setup: Setup): string {
  const pays = paysSentence(treatment, formats, setup)
  const says = [pays && `goes ${pays}`, travelSentence(treatment, setup)].filter(Boolean).join('; ')
  const limits = limitsSentence(treatment, setup)
  return `${says || 'says nothing yet'}${limits ? ` (${limits})` : ''}`
}
