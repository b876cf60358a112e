import { Status } from '../ui/alerts'
import { Link } from 'react-router'
import { useWorkshop } from '../edits/workshop'
import { useFindings } from '../setup/queries'
import { Answer } from '../ui/answer'
import { counted } from '../ui/locale'
import { Empty } from '../ui/said'
import { awaySentence, useTurnedAway } from '../turned-away/turned-away'
import { FindingsList } from './findings-list'

/** Everything the audit found, of all sections, the most harmful first. */
export function Findings() {
  const { setup } = useWorkshop()
  return (
    <div className="max-w-5xl px-4 pt-3 pb-8">
      <h1 className="text-2xl">Findings</h1>
      <p className="mb-2 max-w-3xl text-soft">
        The whole setup is looked through after every edit, and carts are priced for what settings do
        together. The most harmful comes first; what has one cause stands in one place.
      </p>
      <Met />
      <Answer of={useFindings(setup.revision)} waiting="Looking through the setup …">
        {({ findings, progress }) => (
          <>
            {progress && (
              <Status className="text-soft">
                Still pricing carts: {progress.done} of {counted(progress.total, 'zone')}.
              </Status>
            )}
            {findings.length ? (
              <FindingsList findings={findings} named />
            ) : (
              !progress && (
                <Empty>Nothing found: no holes, no contradictions, nothing free by accident.</Empty>
              )
            )}
          </>
        )}
      </Answer>
    </div>
  )
}

/** How many kinds of carts that were turned away are told here. */
const SHOWN = 3
const DAYS = 30

/** What shoppers met: the most frequent carts that could get nothing. */
function Met() {
  const { setup } = useWorkshop()
  const { data: report } = useTurnedAway(DAYS)
  if (!report?.groups.length) return null
  return (
    <section aria-label="What shoppers met" className="mb-3 border-l-4 border-brick bg-white px-3 py-2">
      <h2 className="text-lg">What shoppers met, in thirty days</h2>
      <ul>
        {report.groups.slice(0, SHOWN).map((group) => (
          <li key={`${group.status} ${group.zone} ${group.country} ${group.first_at}`}>
            {awaySentence(group, setup)}
          </li>
        ))}
      </ul>
      <Link to="/turned-away" className="underline">
        All that was turned away
      </Link>
    </section>
  )
}
