import type { Finding } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { awake, useFindings } from '../setup/queries'
import { Section } from '../ui/section'
import type { Page, Part } from './pages'

function of(findings: Finding[] | undefined, { counts }: Part) {
  return counts ? awake(findings).filter(({ part }) => part === counts).length : 0
}

/** A page with its heading and the ways to its parts. */
export function Headed({ page }: { page: Page }) {
  const { setup } = useWorkshop()
  const { data } = useFindings(setup.revision)
  const parts = page.parts.map((part) => ({
    path: part.at,
    name: part.name,
    count: of(data?.findings, part),
  }))
  return <Section title={page.name} parts={parts.length > 1 ? parts : []} />
}
