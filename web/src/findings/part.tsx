import type { ReactNode } from 'react'
import { useFindingsAbout, type Section } from './about'
import { FindingsList } from './findings-list'

interface Part {
  section: Section
  none: string
  /** What else there is to look for. */
  more?: ReactNode
}

/** Everything the audit found about one section, or that it found nothing. */
export function FindingsPart({ section, none, more }: Part) {
  const findings = useFindingsAbout(section)
  return (
    <div className="max-w-4xl">
      {findings.length ? <FindingsList findings={findings} named /> : <p>{none}</p>}
      {more}
    </div>
  )
}
