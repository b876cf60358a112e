import { Section } from '../ui/section'

/** Kept carts with what they are to get; how carts for them are found; out and in as CSV. */
export function Proofs() {
  return (
    <Section
      title="Proofs"
      parts={[
        { path: '/proofs', name: 'Kept carts' },
        { path: '/proofs/walk', name: 'Walk the edges' },
        { path: '/proofs/csv', name: 'CSV' },
      ]}
    />
  )
}
