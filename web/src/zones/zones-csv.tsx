import { useState } from 'react'
import { toast } from 'sonner'
import { ApiProblem, call, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import { counted } from '../ui/format'
import { readFile } from './read-file'

type Imported = Schemas['ZonesImported']

/** Zones out and in as CSV: first what it would do, then it; rows with faults are told and left out. */
export function ZonesCsv() {
  const { edit, undo } = useWorkshop()
  const [csv, setCsv] = useState('')
  const [plan, setPlan] = useState<Imported | null>(null)
  const [error, setError] = useState<string | null>(null)
  const read = async (text: string) => {
    setCsv(text)
    try {
      setPlan(
        text.trim() ? await call<Imported>('POST', '/api/zones/import', { csv: text, store: false }) : null,
      )
      setError(null)
    } catch (problem) {
      setPlan(null)
      setError(problem instanceof ApiProblem ? problem.summary : (problem as Error).message)
    }
  }
  const store = async () => {
    try {
      await edit(() => call('POST', '/api/zones/import', { csv, store: true }))
      toast('Took the zones', { action: { label: 'Undo', onClick: () => void undo() } })
      setCsv('')
      setPlan(null)
    } catch (problem) {
      setError((problem as Error).message)
    }
  }
  const doing = plan ? plan.created.length + plan.changed.length : 0
  return (
    <div className="flex max-w-3xl flex-col gap-2">
      <p>
        <a className="underline underline-offset-2" href="/api/zones.csv" download>
          Take all zones as CSV
        </a>
        <span className="text-soft">
          : a row for each area; lists stand in one cell, with semicolons between.
        </span>
      </p>
      <p className="text-soft">
        Read zones from CSV (columns zone, active, kind, country, regions, only, except). The areas of the
        zones it names are replaced; other zones stay as they are.
      </p>
      <textarea
        className="field w-full"
        rows={6}
        aria-label="Zones as CSV"
        placeholder={
          'zone,active,kind,country,regions,only,except\nIslands,yes,country,GB,,IV; KA27 to KA28,'
        }
        value={csv}
        onChange={(event) => void read(event.target.value)}
      />
      <input
        type="file"
        accept=".csv,text/csv"
        aria-label="A CSV file of zones"
        onChange={(event) => {
          const file = event.target.files?.[0]
          if (file) void readFile(file).then(read, (problem: Error) => setError(problem.message))
        }}
      />
      {error && <FieldError>{error}</FieldError>}
      {plan && (
        <div aria-live="polite">
          <p>
            <b>{plan.created.length}</b> new, <b>{plan.changed.length}</b> changed,{' '}
            <b>{plan.unchanged.length}</b> as they are, <b>{plan.faults.length}</b> with a fault
          </p>
          {plan.faults.map((fault) => (
            <FieldError key={fault.line}>
              Line {fault.line}: {fault.detail}
            </FieldError>
          ))}
          <button
            type="button"
            className="button mt-2 border-ink font-semibold"
            disabled={doing === 0}
            onClick={() => void store()}
          >
            {plan.faults.length
              ? `Take the good rows: ${counted(doing, 'zone')}`
              : `Take ${counted(doing, 'zone')}`}
          </button>
        </div>
      )}
    </div>
  )
}
