import { awake } from '../api/setup'
import { useFindingsAbout } from '../findings/about'
import { Section } from '../ui/section'

/** When something holds, then something is done: the rules, the order of everything, and what is wrong with them. */
export function Rules() {
  return (
    <Section
      title="Rules"
      parts={[
        { path: '/rules', name: 'All rules' },
        { path: '/rules/order', name: 'What comes first' },
        { path: '/rules/findings', name: 'Findings', count: awake(useFindingsAbout('rules')).length },
      ]}
    />
  )
}
