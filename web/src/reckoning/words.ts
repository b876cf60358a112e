import type { MethodQuote, Quote, ReckoningStep, Schemas, Setup, Zone } from '../api/client'
import { measureWords } from '../plans/draft'
import { countryName, counted, isZero, type Formats } from '../ui/format'

type Numbers = Record<string, unknown>

const text = (numbers: Numbers, key: string): string => String(numbers[key] ?? '')

const LEVELS: Record<string, string> = {
  variant: 'the variant itself',
  product: 'the product',
  class: 'its class',
}

function loadWords(numbers: Numbers): string {
  return numbers.label ? `${text(numbers, 'label')}: ` : ''
}

function timesWords(numbers: Numbers, formats: Formats): string {
  const times = Number(numbers.times)
  return times > 1 ? `, ${times} × ${formats.money(text(numbers, 'amount_of_one'))}` : ''
}

function measured(numbers: Numbers, formats: Formats, between = ' '): string {
  const number = text(numbers, 'number')
  const name = measureWords(text(numbers, 'measure'))
  return `${name}${between}${numbers.measure === 'value' ? formats.money(number) : number}`
}

function stretchWords(numbers: Numbers, formats: Formats): string {
  const side = (key: string) =>
    numbers.measure === 'value' ? formats.money(text(numbers, key)) : text(numbers, key)
  if (numbers.edges === 'up_to') {
    const above = /^0(\D|$)/.test(text(numbers, 'start')) ? '' : `above ${side('start')}`
    return [above, numbers.finish && `up to ${side('finish')}`].filter(Boolean).join(' ') || 'from nothing on'
  }
  return numbers.finish ? `from ${side('start')} to less than ${side('finish')}` : `from ${side('start')}`
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

function amountOf(numbers: Numbers, key: string, formats: Formats): string {
  const amount = text(numbers, key)
  if (numbers.measure === 'value') return formats.money(amount)
  return numbers.measure === 'quantity' ? counted(Number(amount), 'unit') : amount
}

const TROUBLES: Record<string, string> = {
  silent: 'The carrier is silent or down',
  refused: 'The carrier refuses this address or these goods',
  unusable: 'The answer is unusable',
  fault: 'A fault of this server, not of a carrier',
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
    case 'rate.narrowed':
      return 'Holds in a part of the zone only; priced as if the cart went there'
    case 'rate.narrowed_perhaps':
      return `Holds in a part of the zone only: the ${text(numbers, 'field')} decides whether the cart goes there`
    case 'schedule.flat':
      return numbers.label || numbers.class || Number(numbers.times) > 1
        ? `${loadWords(numbers)}one amount in ${text(numbers, 'zone')}${timesWords(numbers, formats)}`
        : `Flat price in ${text(numbers, 'zone')}, whatever the cart holds`
    case 'schedule.first':
      return `${loadWords(numbers)}first unit ${formats.money(text(numbers, 'first'))}, ${text(numbers, 'more')} more at ${formats.money(text(numbers, 'additional'))}${timesWords(numbers, formats)}`
    case 'schedule.steps': {
      const more = numbers.each
        ? ` and ${text(numbers, 'started')} × ${formats.money(text(numbers, 'each'))} for each started ${text(numbers, 'increment')}`
        : ''
      const percent = numbers.percent
        ? ` and ${text(numbers, 'percent')} % of ${formats.money(text(numbers, 'of'))}`
        : ''
      return `${loadWords(numbers)}${measured(numbers, formats)} is in the step ${stretchWords(numbers, formats)}: ${formats.money(text(numbers, 'base'))}${more}${percent}${timesWords(numbers, formats)}`
    }
    case 'schedule.grid':
      return `${loadWords(numbers)}grid, ${measureWords(text(numbers, 'measure'))} ${text(numbers, 'row')} and ${text(numbers, 'column')}${timesWords(numbers, formats)}`
    case 'plan.combine':
      return {
        sum: 'Added up',
        highest: 'Of these the highest alone',
        lowest: 'Of these the lowest alone',
        dearest_first: 'The highest first price once, each further unit at its additional price',
      }[text(numbers, 'how')]!
    case 'live.markup':
    case 'adjust.handling': {
      const fixed = numbers.fixed
        ? `${Number(numbers.count) > 1 ? `${text(numbers, 'count')} × ` : ''}${formats.money(text(numbers, 'fixed'))}`
        : ''
      const percent = numbers.percent
        ? `${text(numbers, 'percent')} % of ${formats.money(text(numbers, 'of'))}`
        : ''
      const parts = [fixed, percent].filter(Boolean).join(' and ')
      const added = formats.money(text(numbers, 'added'))
      return `${step.code === 'live.markup' ? 'Markup' : 'Handling'}: ${parts}${parts === added ? '' : `, ${added}`}`
    }
    case 'adjust.minimum':
      return `At least this, not ${formats.money(text(numbers, 'from'))}`
    case 'adjust.maximum':
      return `At most this, not ${formats.money(text(numbers, 'from'))}`
    case 'adjust.ending':
      return `To an ending of ${text(numbers, 'ending').replace(/^0/, '')}, from ${formats.money(text(numbers, 'from'))}`
    case 'price.total':
      return 'The shopper pays'
    case 'parcels.stand_in':
      return numbers.weight
        ? `Without a weight, taken as ${text(numbers, 'weight')} each: ${(numbers.names as string[]).join(', ')}`
        : `Without a size, taken as ${text(numbers, 'size')} each: ${(numbers.names as string[]).join(', ')}`
    case 'live.own_first':
      return 'The rate’s own price goes before the carriers’'
    case 'live.answer': {
      const age = Number(numbers.age)
      const days = numbers.days ? `, ${text(numbers, 'days')} business days` : ''
      return `${text(numbers, 'service')} asks this for ${counted(Number(numbers.parcels), 'parcel')}${days}${age > 1 ? `, ${age} s ago` : ''}`
    }
    case 'live.silent':
    case 'live.refused':
    case 'live.fault':
    case 'live.unusable': {
      const what = {
        'live.fault': 'was not asked',
        'live.silent': 'is silent',
        'live.refused': 'refuses it',
        'live.unusable': 'gives no usable answer',
      }[step.code]
      return `${text(numbers, 'service')} ${what}${numbers.said ? `: ${text(numbers, 'said')}` : ''}`
    }
    case 'live.chosen':
      return `${text(numbers, 'service')} counts, ${{ cheapest: 'the cheapest', fastest: 'the fastest', first: 'the first in your list' }[text(numbers, 'how')]} of ${text(numbers, 'of')}`
    case 'live.fallback':
      return `${TROUBLES[text(numbers, 'trouble')]}: your amount for that`
    case 'live.fallback_plan':
      return `${TROUBLES[text(numbers, 'trouble')]}: your own price for that`
    case 'offer.acted': {
      const share =
        numbers.share && !isZero(text(numbers, 'share'))
          ? `, beside ${formats.money(text(numbers, 'share'))} for goods that pay their own way`
          : ''
      return `Offer “${text(numbers, 'offer')}” takes ${formats.money(text(numbers, 'taken'))} off ${formats.money(text(numbers, 'base'))}${share}`
    }
    case 'offer.no_gain':
      return `Offer “${text(numbers, 'offer')}” is reached, with nothing left to take off`
    case 'offer.beaten':
      return `Offer “${text(numbers, 'offer')}” is reached too, but it would come to ${formats.price(text(numbers, 'price'))}`
    case 'offer.below':
      return `Offer “${text(numbers, 'offer')}” is not reached: ${amountOf(numbers, 'remaining', formats)} more`
    case 'offer.over':
      return `Offer “${text(numbers, 'offer')}” ends below this cart`
    case 'offer.unknown':
      return `Offer “${text(numbers, 'offer')}” looks at the weight, which is not known`
    case 'offer.no_share':
      return `Offer “${text(numbers, 'offer')}” does not act: what the goods that pay their own way would cost alone is not known`
    case 'offer.renamed':
      return `Called “${text(numbers, 'to')}” by offer “${text(numbers, 'offer')}”`
    case 'rule.renamed':
      return `Called “${text(numbers, 'to')}” by rule “${text(numbers, 'rule')}”`
    case 'rule.message':
      return `Rule “${text(numbers, 'rule')}” says “${text(numbers, 'text')}”`
    case 'rule.price': {
      const by = numbers.percent ? `${text(numbers, 'percent')} %` : formats.money(text(numbers, 'given'))
      const what = {
        price: `sets ${by}`,
        add: `adds ${by}`,
        off: `takes ${by} off`,
        floor: `asks for at least ${by}`,
        cap: `asks for at most ${by}`,
      }[text(numbers, 'kind')]
      return `Rule “${text(numbers, 'rule')}” ${what}, from ${formats.money(text(numbers, 'before'))}`
    }
    case 'finish.renamed':
      return `Called “${text(numbers, 'to')}” in this zone, not “${text(numbers, 'from')}”`
    default:
      return step.code
  }
}

/** Why a method is not available, in words. */
export function causeSentence(cause: Schemas['Cause'], formats?: Formats): string {
  const numbers = cause.numbers as Numbers
  switch (cause.code) {
    case 'method_off':
      return 'The method is switched off.'
    case 'rate_off':
      return 'Switched off in this zone.'
    case 'no_weight':
      return `No weight is known of ${(numbers.names as string[]).join(', ')}, and this price needs it.`
    case 'no_size':
      return `No size is known of ${(numbers.names as string[]).join(', ')}, and this price needs it.`
    case 'beyond':
      return `Not available for a ${formats ? measured(numbers, formats, ' of ') : 'cart like this'}.`
    case 'blank_cell':
      return `The cell of ${text(numbers, 'row')} and ${text(numbers, 'column')} is blank.`
    case 'cell_none':
      return `Not available at ${text(numbers, 'row')} and ${text(numbers, 'column')}.`
    case 'no_class_price':
      return `No price is said for ${(numbers.names as string[]).join(', ')}.`
    case 'not_carried':
      return `Does not carry ${(numbers.names as string[]).join(', ')}.`
    case 'outside_areas':
      return 'Not in this part of the zone.'
    case 'address_open':
      return `The ${text(numbers, 'field')} decides whether it goes there.`
    case 'address_decides':
      return 'Depends on where in the zone it goes.'
    case 'too_heavy':
      return `Heavier than a parcel of ${text(numbers, 'most')}: ${(numbers.names as string[]).join(', ')}.`
    case 'hidden_by_rule':
      return `Hidden by rule “${text(numbers, 'rule')}”.`
    case 'hidden_by_offer':
      return `Hidden, because “${text(numbers, 'offer')}” makes ${text(numbers, 'free')} free.`
    case 'closed':
      return `It is not offered at this hour (${text(numbers, 'at')}).`
    case 'after_cutoff':
      return `It is after its cutoff (${text(numbers, 'at')}).`
    case 'live_waiting':
      return 'Asking the carriers …'
    case 'no_origin':
      return 'Carriers must know where it is sent from: the shop has no address yet.'
    case 'live_failed':
      return `${TROUBLES[text(numbers, 'trouble')]}${numbers.said ? `: ${text(numbers, 'said')}` : ''}.`
    case 'no_boxes':
      return 'There is no box to pack into.'
    case 'no_box':
      return `Fits no box: ${(numbers.names as string[]).join(', ')}.`
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
  formats: Formats,
): { text: string; setting: Schemas['Setting'] | null }[] {
  const told: { text: string; setting: Schemas['Setting'] | null }[] = []
  const seen = new Set<string>()
  for (const cause of causes) {
    if (cause.code !== 'line_barred') {
      told.push({ text: causeSentence(cause, formats), setting: cause.setting })
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
      if (quote.landing?.status === 'zone') {
        const open = [...new Set(quote.methods.flatMap((method) => method.provisional))]
        return `The ${open.join(' and the ')} decides which methods there are here.`
      }
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
