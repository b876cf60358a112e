import { useFindings, useWorkshop } from '../api/setup'
import type { Finding } from '../api/client'

const CODES: Record<'goods' | 'rates', Finding['code'][]> = {
  goods: ['no_way', 'own_price_barred', 'treatment_never', 'no_weight', 'no_class', 'empty_class'],
  rates: [
    'free_beside_paid',
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
  ],
}

/** What the audit found about one section's settings. */
export function useFindingsAbout(section: 'goods' | 'rates'): Finding[] {
  const { setup } = useWorkshop()
  const { data } = useFindings(setup.revision)
  return (data?.findings ?? []).filter((finding) => CODES[section].includes(finding.code))
}
