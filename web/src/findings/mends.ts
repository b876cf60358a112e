import { isKeyOf } from '../api/shapes'
import type { Changing, Finding, Setup } from '../api/client'

/** Settings of which it is certain that they do nothing as they are. */
const OFF: readonly Finding['code'][] = [
  'offer_over',
  'rule_over',
  'takes_nothing',
  'coupon_before_offer',
  'offer_never',
  'offer_beaten',
  'offer_no_gain',
  'offer_coupon_off',
  'rule_never',
  'rule_hidden',
  'treatment_never',
]

const LISTS = { offer: 'offers', rule: 'rules', treatment: 'treatments' } as const

/** A mend in one press, where it is certain: the thing to be switched off. */
export function mendOf({ code, setting }: Finding, setup: Setup) {
  if (!setting || !OFF.includes(code) || !isKeyOf(LISTS, setting.kind)) return null
  const list = LISTS[setting.kind]
  const thing = setup[list].find(({ id }) => id === setting.id)
  if (!thing?.active) return null
  const off = (to: Changing, lock_version: number) =>
    to.PATCH(`/api/${list}/{id}`, {
      params: { path: { id: setting.id } },
      body: { active: false, lock_version },
    })
  return { path: `/api/${list}/${setting.id}`, thing, name: thing.name ?? '', off }
}
