import type { Setup, Treatment } from '../api/client'
import { namesOf } from './offers'
import { isZero, type Formats } from '../ui/format'
import { few } from '../ui/locale'

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
    ({ method, charge }) => `${namesOf([method], setup.methods)[0]}: ${chargeWords(charge, formats)}`,
  )
  const together = price.together ? ', all its goods counted together' : ''
  return `apart from the cart: ${[chargeWords(price.charge, formats), ...own].join('; ')}${together}`
}

/** How a treatment's goods may travel, in words; nothing where it leaves that alone. */
export function travelSentence(treatment: Treatment, setup: Setup): string {
  const { only, never } = treatment.travel ?? {}
  const parts = [
    only && (only.length ? `only by ${few(namesOf(only, setup.methods))}` : 'by no method at all'),
    never?.length && `never by ${few(namesOf(never, setup.methods), 'or')}`,
  ]
  return parts.filter(Boolean).join(', ')
}

/** Where a treatment holds, in words; nothing where it holds everywhere. */
export function limitsSentence(treatment: Treatment, setup: Setup): string {
  const parts = [
    treatment.methods && `with ${few(namesOf(treatment.methods, setup.methods))}`,
    treatment.zones && `in ${few(namesOf(treatment.zones, setup.zones))}`,
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
