import { awake } from '../api/setup'
import { useFindingsAbout } from '../findings/about'
import { Section } from '../ui/section'

/** All prices of all zones: read back, compared by class, out and in as CSV, and what is wrong with them. */
export function Rates() {
  return (
    <Section
      title="Rates"
      parts={[
        { path: '/rates', name: 'All rates' },
        { path: '/rates/classes', name: 'By class' },
        { path: '/rates/tariff', name: 'Tariff' },
        { path: '/rates/csv', name: 'CSV' },
        { path: '/rates/findings', name: 'Findings', count: awake(useFindingsAbout('rates')).length },
      ]}
    />
  )
}
