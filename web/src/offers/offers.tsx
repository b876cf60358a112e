import { awake } from '../api/setup'
import { useFindingsAbout } from '../findings/about'
import { Section } from '../ui/section'

/** Free and reduced shipping, whom the shop knows, what its pages say, and what is wrong with any of it. */
export function Offers() {
  return (
    <Section
      title="Offers"
      parts={[
        { path: '/offers', name: 'All offers' },
        { path: '/offers/registers', name: 'Groups and coupons' },
        { path: '/offers/pages', name: 'On the shop’s pages' },
        { path: '/offers/findings', name: 'Findings', count: awake(useFindingsAbout('offers')).length },
      ]}
    />
  )
}
