import type { ReactNode } from 'react'
import { useWorkshop } from '../edits/workshop'
import { useFindings } from '../setup/queries'
import { Answer } from '../ui/answer'
import type { Section } from './about'
import { FindingsList } from './findings-list'

interface Part {
  section: Section
  none: string
  /** What else there is to look for. */
  more?: ReactNode
}

/** Everything the audit found about one section, or that it found nothing. */
export function FindingsPart({ section, none, more }: Part) {
  const { setup } = useWorkshop()
  return (
    <div className="max-w-4xl">
      <Answer of={useFindings(setup.revision)}>
        {({ findings }) => {
          const own = findings.filter(({ part }) => part === section)
          return own.length ? <FindingsList findings={own} named /> : <p>{none}</p>
        }}
      </Answer>
      {more}
    </div>
  )
}
