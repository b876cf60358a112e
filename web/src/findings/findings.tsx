import { useFindings, useWorkshop } from '../api/setup'
import { Answer } from '../ui/answer'
import { counted } from '../ui/locale'
import { Empty } from '../ui/said'
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
      <Answer of={useFindings(setup.revision)} waiting="Looking through the setup …">
        {({ findings, progress }) => (
          <>
            {progress && (
              <p role="status" className="text-soft">
                Still pricing carts: {progress.done} of {counted(progress.total, 'zone')}.
              </p>
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
