import { Section } from '../ui/section'

/** The shop itself: what was said when it was opened, who works on it, and what they did. */
export function Shop() {
  return (
    <Section
      title="The shop"
      parts={[
        { path: '/shop', name: 'Settings' },
        { path: '/shop/people', name: 'People' },
        { path: '/shop/me', name: 'My account' },
        { path: '/shop/log', name: 'Audit log' },
      ]}
    />
  )
}
