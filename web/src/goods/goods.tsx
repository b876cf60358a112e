import { awake } from '../api/setup'
import { useFindingsAbout } from '../findings/about'
import { Section } from '../ui/section'

/** What the shop ships: the catalogue, its classes, and how some goods leave the ordinary rates. */
export function Goods() {
  return (
    <Section
      title="Goods"
      parts={[
        { path: '/goods', name: 'Catalogue' },
        { path: '/goods/classes', name: 'Classes' },
        { path: '/goods/treatments', name: 'Treatments' },
        { path: '/goods/boxes', name: 'Boxes' },
        { path: '/goods/csv', name: 'CSV' },
        { path: '/goods/findings', name: 'Findings', count: awake(useFindingsAbout('goods')).length },
      ]}
    />
  )
}
