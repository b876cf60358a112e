import type { Plan } from '../api/client'
import { counted } from '../ui/locale'
import { tidyFigure } from '../ui/sheet/types'
import { amountOf } from '../plans/draft'
import { type ClassPrice } from '../words/measures'
import { OTHERS, priceOf, withPrice, type Group } from './class-groups'

/** Where an edit of a class's price is kept among the edits of its rate. */
export const keyOf = (group: Group) => `plan class ${group ?? ''}`

/** "4.50", "4.50 each", "not carried"; nothing where the class pays as everything else does. */
export function cellText(plan: Plan | null | undefined, group: Group): string {
  const price = priceOf(plan ?? {}, group)
  if (!price) return ''
  if (price.carried === false) return 'not carried'
  const amount = amountOf(price.schedule)
  return amount && price.charge === 'unit' ? `${amount} each` : amount
}

/** What is said of a price that is no single amount. */
export function scheduled(price: ClassPrice | undefined): string {
  switch (price?.schedule?.kind) {
    case 'steps':
      return `in ${counted(price.schedule.steps.length, 'step')}`
    case 'grid':
      return 'in a grid'
    case 'first':
      return 'first and more'
    default:
      return ''
  }
}

/** What a typed cell makes of the price that was there; nothing where the class pays as everything else does. */
export function priceFrom(text: string, group: Group, old: ClassPrice | undefined): ClassPrice | undefined {
  const typed = tidyFigure(text)
  if (!typed) return undefined
  const own = group === OTHERS ? { unclassed: old?.unclassed ?? true } : { class: group }
  if (/^(no|none|not carried)$/i.test(typed)) return { carried: false, ...own }
  const each = /^(.*?)\s*(each|per unit|a unit)$/i.exec(typed)
  return {
    carried: true,
    charge: each ? 'unit' : 'once',
    schedule: { kind: 'flat', amount: each ? each[1]! : typed },
    ...own,
  }
}

/** The plan with a typed cell in it. */
export function planWith(plan: Plan | null | undefined, group: Group, text: string): Plan {
  const old = plan ?? {}
  return withPrice(old, group, priceFrom(text, group, priceOf(old, group)))
}
