import type { Plan, Schemas } from '../api/client'
import type { ClassPrice } from '../words/measures'

export type Prices = Schemas['ClassPrices']['rates'][number]['prices'][number]

/** Everything else stands in the table like a class. */
export const OTHERS = null
export type Group = string | typeof OTHERS

export function priceOf(plan: Plan, group: Group): ClassPrice | undefined {
  return group === OTHERS ? plan.others : plan.classes?.find((item) => item.class === group)
}

/** The plan with another price for a class, or with none of its own. */
export function withPrice(plan: Plan, group: Group, price: ClassPrice | undefined): Plan {
  const next = { ...plan }
  if (group === OTHERS) {
    if (price) next.others = price
    else delete next.others
    return next
  }
  const list = plan.classes ?? []
  const there = list.some((item) => item.class === group)
  if (!price) next.classes = list.filter((item) => item.class !== group)
  else if (there) next.classes = list.map((item) => (item.class === group ? price : item))
  else next.classes = [...list, { ...price, class: group }]
  return next
}

/** One price for any class of goods becomes a price for everything else: nothing costs anything else yet. */
export function byClass({ schedule, ...rest }: Plan): Plan {
  return {
    ...rest,
    group: 'class',
    classes: [],
    others: { charge: 'once', unclassed: true, ...(schedule ? { schedule } : {}) },
  }
}
