import type { MethodQuote, Quote, ReckoningStep, Schemas, Setup, Zone } from '../api/client'
import { countryName, counted, type Formats } from '../ui/format'

type Numbers = Record<string, unknown>

const text = (numbers: Numbers, key: string): string => String(numbers[key] ?? '')

const LEVELS: Record<string, string> = {
  variant: 'the variant itself',
  product: 'the product',
  class: 'its class',
}

/** "3 × £6.00 + 2 × £4.00", and how the steps were counted where that matters. */
function partsSentence(numbers: Numbers, formats: Formats): string {
  const parts = (numbers.parts as [number, string][]).map(
    ([units, each]) => `${units} × ${formats.money(each)}`,
  )
  const counting = { unit: '', graduated: ', each unit by its own step', whole: ', all by the step reached' }[
    text(numbers, 'counting')
  ]
  return `${parts.join(' + ')}${counting ?? ''}`
}

/** One line of a reckoning, as a sentence. The one place where its codes become words. */
export function stepSentence(step: ReckoningStep, formats: Formats): string {
  const numbers = step.numbers as Numbers
  switch (step.code) {
    case 'lines.need_no_shipping':
      return `Left out, needs no shipping: ${(numbers.names as string[]).join(', ')}`
    case 'lines.ordinary': {
      const weight = numbers.weight ? text(numbers, 'weight') : 'weight not known'
      const units = counted(Number(numbers.quantity), 'unit')
      const value = formats.money(text(numbers, 'value'))
      return Number(numbers.apart)
        ? `${counted(Number(numbers.lines), 'line')} left for the ordinary rate: ${units}, ${value}, ${weight}`
        : `${counted(Number(numbers.lines), 'line')} to ship: ${units}, ${value}, ${weight}`
    }
    case 'lines.none_ordinary':
      return 'No line is left for the ordinary rate, so it takes nothing'
    case 'lines.apart':
      return `Priced apart, so not in the ordinary rate: ${text(numbers, 'name')}, by “${text(numbers, 'treatment')}” on ${LEVELS[text(numbers, 'level')]}`
    case 'lines.along':
      return `Goes along with the cart: ${text(numbers, 'name')}, by “${text(numbers, 'treatment')}” on ${LEVELS[text(numbers, 'level')]}`
    case 'treated.apart':
      return `“${text(numbers, 'treatment')}” for ${(numbers.names as string[]).join(', ')}: ${partsSentence(numbers, formats)}`
    case 'treated.fee':
      return `“${text(numbers, 'treatment')}” on top for ${text(numbers, 'name')}: ${text(numbers, 'units')} × ${formats.money(text(numbers, 'each'))}`
    case 'schedule.flat':
      return `Flat price in ${text(numbers, 'zone')}, whatever the cart holds`
    case 'price.total':
      return 'The shopper pays'
    case 'finish.renamed':
      return `Called “${text(numbers, 'to')}” in this zone, not “${text(numbers, 'from')}”`
    default:
      return step.code
  }
}

/** Why a method is not available, in words. */
export function causeSentence(cause: Schemas['Cause']): string {
  const numbers = cause.numbers as Numbers
  switch (cause.code) {
    case 'method_off':
      return 'The method is switched off.'
    case 'rate_off':
      return 'Switched off in this zone.'
    case 'no_price':
      return 'No price is set yet, so it is not offered.'
    case 'unknown_product':
      return `${text(numbers, 'sku')} is not in the catalogue.`
    case 'nothing_to_ship':
      return 'Nothing on the bench needs shipping.'
    default:
      return cause.code
  }
}

/** The causes as they are told: lines that the same treatment bars stand together, with the one setting behind them. */
export function toldCauses(
  causes: Schemas['Cause'][],
): { text: string; setting: Schemas['Setting'] | null }[] {
  const told: { text: string; setting: Schemas['Setting'] | null }[] = []
  const seen = new Set<string>()
  for (const cause of causes) {
    if (cause.code !== 'line_barred') {
      told.push({ text: causeSentence(cause), setting: cause.setting })
      continue
    }
    const id = cause.setting?.id ?? ''
    if (seen.has(id)) continue
    seen.add(id)
    const same = causes.filter((other) => other.code === 'line_barred' && other.setting?.id === id)
    const names = same.map((other) => text(other.numbers as Numbers, 'name'))
    told.push({
      text: `May not go by it: ${names.join(', ')} (${text(cause.numbers as Numbers, 'treatment')}).`,
      setting: cause.setting,
    })
  }
  return told
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
      const names = (quote.landing?.candidates ?? []).map(
        (id) => setup.zones.find((zone) => zone.id === id)?.name ?? 'none',
      )
      return `The ${quote.landing?.decides} decides the zone. Still possible: ${names.join(', ')}.`
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
  return area?.kind === 'world'
    ? `Goes to ${zone.name}, because no other zone covers the address`
    : `Goes to ${countryName(area?.country ?? '')}${landing.clause ? `, postcode “${landing.clause}”` : ''}, so to ${zone.name}`
}

export function reckoningTitle(method: MethodQuote, formats: Formats): string {
  return `Why ${formats.price(method.price ?? '0')}?`
}
