import { useWorkshop } from '../edits/workshop'
import { useFindings } from '../setup/queries'
import type { Finding } from '../api/client'

export type Section = Exclude<Finding['part'], 'zones'>

/** What the audit found about one section's settings. */
export function useFindingsAbout(section: Section): Finding[] {
  const { setup } = useWorkshop()
  const { data } = useFindings(setup.revision)
  return (data?.findings ?? []).filter(({ part }) => part === section)
}
