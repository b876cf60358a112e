import { useFindings, useWorkshop } from '../api/setup'
import type { Finding } from '../api/client'

export type Section = 'goods' | 'rates' | 'offers' | 'rules'

const CODES: Record<Section, Finding['code'][]> = {
  goods: ['no_way', 'own_price_barred', 'treatment_never', 'no_weight', 'no_class', 'empty_class'],
  rates: [
    'free_beside_paid',
    'free_unpriced',
    'no_rate',
    'no_class_price',
    'blank_cells',
    'loss',
    'own_price_far',
    'falling',
    'ends_early',
    'out_of_reach',
    'not_carried',
    'rates_alike',
    'live_no_fallback',
    'live_carrier_off',
    'live_unmeasured',
    'live_never_wins',
    'live_loss',
    'live_all_refuse',
    'no_box_for',
  ],
  offers: [
    'offer_never',
    'offer_over',
    'offer_spoilt',
    'offer_closes',
    'offer_loss',
    'offer_unclassed',
    'pays_more',
    'milepost_over',
    'coupon_unused',
  ],
  rules: ['rule_never', 'rule_always', 'rule_hidden', 'rules_fight', 'rule_open', 'all_hidden'],
}

/** What the audit found about one section's settings. */
export function useFindingsAbout(section: Section): Finding[] {
  const { setup } = useWorkshop()
  const { data } = useFindings(setup.revision)
  return (data?.findings ?? []).filter((finding) => CODES[section].includes(finding.code))
}
