import { useState, type ReactNode } from 'react'
import { Status } from '../ui/alerts'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { Input, TextArea } from '../ui/input'
import { count, counted } from '../ui/locale'
import type { Import, Rows } from './use-import'

/** Errors that are listed one by one. */
const SHOWN = 30

interface Source {
  /** What the rows are, e.g. "zones". */
  many: string
  placeholder: string
  rows: number
  /** Megabytes of a file at most. */
  most?: number
}

/** Where rows come from: a file that is chosen or dropped, or pasted text. Below it, how far they are. */
export function ImportSource<Plan, Chosen>({
  of,
  many,
  placeholder,
  rows,
  most,
  children,
}: Source & { of: Rows<Plan, Chosen>; children?: ReactNode }) {
  const [dragged, setDragged] = useState(false)
  const name = `${many[0]!.toUpperCase()}${many.slice(1)}`
  return (
    <>
      <div
        className={`flex flex-wrap items-center gap-3 border border-dashed px-3 py-2 ${dragged ? 'border-ink bg-white' : 'border-edge'}`}
        onDragOver={(event) => {
          event.preventDefault()
          setDragged(true)
        }}
        onDragLeave={() => setDragged(false)}
        onDrop={(event) => {
          event.preventDefault()
          setDragged(false)
          of.open(event.dataTransfer.files[0])
        }}
      >
        <Input
          bare
          type="file"
          accept=".csv,.tsv,.txt,text/csv"
          aria-label={`CSV file of ${many}`}
          onChange={(event) => {
            of.open(event.target.files?.[0])
            event.target.value = ''
          }}
        />
        <span className="text-soft">or drop it here{most && ` (up to ${most} MB)`}</span>
        {(of.text || of.error) && (
          <Button look="quiet" className="ml-auto" onClick={of.clear}>
            Clear
          </Button>
        )}
      </div>
      {children ?? (
        <TextArea
          className="w-full"
          rows={rows}
          aria-label={`${name} as CSV`}
          placeholder={placeholder}
          value={of.text}
          onChange={(event) => of.type(event.target.value)}
        />
      )}
      {of.error && <FieldError>{of.error}</FieldError>}
    </>
  )
}

/** How far a long file is, for the eye and, in one word, for those who listen. */
export function ImportProgress<Plan, Chosen>({ of: { progress } }: { of: Rows<Plan, Chosen> }) {
  return (
    <p className="flex items-center gap-3 empty:hidden">
      {progress && (
        <>
          <progress
            className="h-2 w-64"
            max={progress.total || 1}
            value={progress.total ? progress.done : undefined}
          />
          <Status as="span">{progress.what}</Status>
          {progress.total > 0 && `${count(progress.done)} of ${counted(progress.total, 'row')}`}
        </>
      )}
    </p>
  )
}

/** Rows with errors, each with its line. */
export function ImportFaults({
  faults,
}: {
  faults: { line: number; detail: string; sku?: string | null; field?: string | null }[]
}) {
  return (
    <>
      <ul className="max-h-48 overflow-y-auto">
        {faults.slice(0, SHOWN).map(({ line, sku, field, detail }) => (
          <li key={line}>
            <FieldError>
              {[`Line ${line}`, sku, field?.replaceAll('_', ' ')].filter(Boolean).join(', ')}: {detail}
            </FieldError>
          </li>
        ))}
      </ul>
      {faults.length > SHOWN && (
        <p className="text-soft">
          and {counted(faults.length - SHOWN, 'more line', 'more lines')} with errors
        </p>
      )}
    </>
  )
}

/** Stores what the rows would change. */
export function ImportButton<Plan, Chosen>({
  of,
  rows,
  what,
  partly,
}: {
  of: Import<Plan, Chosen>
  /** How many would be stored. */
  rows: number
  /** The word for one, e.g. "zone". */
  what: string
  /** Whether others are left out. */
  partly: boolean
}) {
  return (
    <Button className="mt-2 border-ink font-semibold" disabled={rows === 0 || of.busy} onClick={of.take}>
      Import {partly ? counted(rows, 'good row') : counted(rows, what)}
    </Button>
  )
}
