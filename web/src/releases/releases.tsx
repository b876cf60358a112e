import { Section } from '../ui/section'

/** What checkouts use: what is published, what was sold with it, and who may ask. */
export function Releases() {
  return (
    <Section
      title="Release"
      parts={[
        { path: '/release', name: 'Publish' },
        { path: '/release/now', name: 'What goes on' },
        { path: '/release/history', name: 'All releases' },
        { path: '/release/door', name: 'Checkout door' },
        { path: '/release/webhooks', name: 'Webhooks' },
      ]}
    />
  )
}
