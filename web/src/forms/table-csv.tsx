import { Status } from '../ui/alerts'
import { useEffect, useRef, useState } from 'react'
import { changeOf, messageOf, type Changing, type Schemas } from '../api/client'
import { importProofs, type Taken } from '../api/import-stream'
import { foreseeing, useAct } from '../edits/use-act'
import { FieldError } from '../ui/field-error'
import { count, counted, plural } from '../ui/locale'
import { readFile } from '../ui/read-file'
import { useLatest } from '../ui/use-latest'
import { Input, TextArea } from '../ui/input'
import { Button } from '../ui/button'

type Imported = Schemas['TableImported']
type Short = '/api/treatments' | '/api/rates' | '/api/zones' | '/api/boxes'

/** Faults that are told one by one. */
const SHOWN = 30

interface Props {
  /** What a row of the outcome is, e.g. "zone". */
  what: string
  /** e.g. "/api/zones": `.csv` takes them out, `/import` reads them. */
  path: Short | '/api/proofs'
  columns: string
  /** What stands in a row, and how lists are written. */
  about: string
  /** What reading does to what is there. */
  effect: string
  example: string
}

/** Milliseconds. */
const MOMENT = 250

/** A small table out and in as CSV: first what it would do, then it; rows with faults are told and left out. */
export function TableCsv({ what, path, columns, about, effect, example }: Props) {
  const many = plural(what)
  const act = useAct(`${path}/import`, 'table', `Take ${many} from a table`)
  const [csv, setCsv] = useState('')
  const [plan, setPlan] = useState<Imported | null>(null)
  /** The text that the plan is of. */
  const [planned, setPlanned] = useState('')
  const [error, setError] = useState<string | null>(null)
  const latest = useLatest()
  const [progress, setProgress] = useState<string | null>(null)
  /** A table that may be long is told of as it goes on. */
  const ask = async (to: Changing, text: string, store: boolean): Promise<Taken<Imported>> => {
    const body = { csv: text, store }
    if (path !== '/api/proofs') {
      const { data, response } = await to.POST(`${path}/import`, { body })
      return { data: data!, change: changeOf(response) }
    }
    try {
      return await importProofs(to, body, (done, total) =>
        setProgress(`${store ? 'Taking' : 'Reading'} ${count(done)} of ${counted(total, what)} …`),
      )
    } finally {
      setProgress(null)
    }
  }
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined)
  useEffect(() => () => clearTimeout(waiting.current), [])
  /** What is typed letter by letter is read when a moment passes without one. */
  const type = (text: string) => {
    setCsv(text)
    latest()
    clearTimeout(waiting.current)
    waiting.current = setTimeout(() => void read(text), MOMENT)
  }
  const read = async (text: string) => {
    const isLatest = latest()
    setCsv(text)
    try {
      const found = text.trim() ? (await ask(foreseeing, text, false)).data : null
      if (!isLatest()) return
      setPlan(found)
      setPlanned(text)
      setError(null)
    } catch (problem) {
      if (!isLatest()) return
      setPlan(null)
      setError(messageOf(problem))
    }
  }
  const store = () =>
    act.run(
      (to) => ask(to, csv, true),
      () => {
        setCsv('')
        setPlan(null)
      },
      `Took the ${many}`,
    )
  const doing = plan ? plan.created.length + plan.changed.length : 0
  return (
    <div className="flex max-w-3xl flex-col gap-2">
      <p>
        <a className="underline underline-offset-2" href={`${path}.csv`} download>
          Take all {many} as CSV
        </a>
        <span className="text-soft">: {about}</span>
      </p>
      <p className="text-soft">
        Read {many} from CSV (columns {columns}). {effect}
      </p>
      <TextArea
        className="w-full"
        rows={6}
        aria-label={`${many[0]!.toUpperCase()}${many.slice(1)} as CSV`}
        placeholder={`${columns.replaceAll(', ', ',')}\n${example}`}
        value={csv}
        onChange={(event) => type(event.target.value)}
      />
      <Input
        bare
        type="file"
        accept=".csv,text/csv"
        aria-label={`A CSV file of ${many}`}
        onChange={(event) => {
          const file = event.target.files?.[0]
          if (file) void readFile(file).then(read, (problem: Error) => setError(problem.message))
        }}
      />
      {progress && <Status className="text-soft">{progress}</Status>}
      {(error ?? act.message) && <FieldError>{error ?? act.message}</FieldError>}
      {plan && (
        <div>
          <Status>
            <b>{plan.created.length}</b> new, <b>{plan.changed.length}</b> changed,{' '}
            <b>{plan.unchanged.length}</b> as they are, <b>{plan.faults.length}</b> with a fault
          </Status>
          {plan.faults.slice(0, SHOWN).map((fault) => (
            <FieldError key={fault.line}>
              Line {fault.line}: {fault.detail}
            </FieldError>
          ))}
          {plan.faults.length > SHOWN && (
            <p className="text-soft">and {count(plan.faults.length - SHOWN)} more lines with a fault.</p>
          )}
          <Button
            className="mt-2 border-ink font-semibold"
            disabled={doing === 0 || act.busy || planned !== csv}
            onClick={store}
          >
            {plan.faults.length
              ? `Take the good rows: ${counted(doing, what)}`
              : `Take ${counted(doing, what)}`}
          </Button>
        </div>
      )}
    </div>
  )
}
