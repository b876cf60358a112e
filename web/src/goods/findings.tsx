import { FindingsList } from '../zones/findings-list'
import { useGoodsFindings } from './goods'

/** Everything the audit found about goods. */
export function GoodsFindings() {
  const findings = useGoodsFindings()
  return (
    <div className="max-w-4xl">
      {findings.length ? (
        <FindingsList findings={findings} named />
      ) : (
        <p>
          Nothing found: every product has a weight and a way to travel, and every treatment says something.
        </p>
      )}
    </div>
  )
}
