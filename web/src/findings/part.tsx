import { useFindingsAbout, type Section } from './about'
import { FindingsList } from './findings-list'

/** Everything the audit found about one section, or that it found nothing. */
export function FindingsPart({ section, none }: { section: Section; none: string }) {
  const findings = useFindingsAbout(section)
  return (
    <div className="max-w-4xl">
      {findings.length ? <FindingsList findings={findings} named /> : <p>{none}</p>}
    </div>
  )
}
