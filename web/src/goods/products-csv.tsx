import { useRef, useState } from 'react'
import { messageOf, api, answerOf, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import { count, counted, list } from '../ui/locale'
import { readFile } from '../ui/read-file'
import { Changes } from './changes'
import { COLUMNS, WORDS } from './columns'
import { importGoods } from '../api/import-stream'
import { foreseeing, useAct } from '../edits/use-act'
import { useLatest } from '../ui/use-latest'
import { Select } from '../ui/select'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'
import { Input, TextArea } from '../ui/input'
import { Panel } from '../ui/said'

type Imported = Schemas['GoodsImported']

type Head = Schemas['CsvHead']

/** The columns of a table of goods, each with what it is called here. */
const FIELDS = COLUMNS.map(({ field }) => field).filter((field) => field !== 'treatments')
const TABLE = [FIELDS[0]!, 'variant_of', ...FIELDS.slice(1), 'tax_class'].map(
  (field) => [field, WORDS[field] ?? field.replaceAll('_', ' ')] as const,
)
const MOST = 20
const SHOWN = 30

function reasonOf(error: unknown): string {
  return messageOf(error)
}

/** The catalogue out and in: choose a file, say what its columns are, see what it would do, take it. */
export function ProductsCsv() {
  const { setup } = useWorkshop()
  const act = useAct('/api/products/import', 'table', 'Take the catalogue from a file')
  const [csv, setCsv] = useState('')
  const [head, setHead] = useState<Head | null>(null)
  const [mapping, setMapping] = useState<Record<string, string>>({})
  const [sure, setSure] = useState(false)
  const [comma, setComma] = useState(false)
  const [plan, setPlan] = useState<Imported | null>(null)
  const [progress, setProgress] = useState<{ what: string; done: number; total: number } | null>(null)
  const [error, setError] = useState<string | null>(null)
  const [dragged, setDragged] = useState(false)
  const running = useRef<AbortController | null>(null)

  const forget = () => {
    running.current?.abort()
    setCsv('')
    setHead(null)
    setPlan(null)
    setError(null)
    setProgress(null)
  }

  const look = async (
    text: string,
    columns: Record<string, string>,
    also: { sure: boolean; comma: boolean },
  ) => {
    running.current?.abort()
    const run = new AbortController()
    running.current = run
    setError(null)
    setProgress({ what: 'Reading', done: 0, total: 0 })
    try {
      const body = { csv: text, mapping: columns, store: false, ...also }
      const { data } = await importGoods(
        foreseeing,
        body,
        (done, total) => setProgress({ what: 'Reading', done, total }),
        run.signal,
      )
      setPlan(data)
      setProgress(null)
    } catch (failed) {
      if (run.signal.aborted) return
      setPlan(null)
      setProgress(null)
      setError(reasonOf(failed))
    }
  }

  const latest = useLatest()
  const begin = async (text: string) => {
    const isLatest = latest()
    forget()
    setCsv(text)
    setSure(false)
    if (!text.trim()) return
    try {
      const beginning = text.split('\n').slice(0, 6).join('\n')
      const found = await answerOf(api.POST('/api/products/csv/head', { body: { csv: beginning } }))
      if (!isLatest()) return
      setHead(found)
      setMapping(found.mapping)
      await look(text, found.mapping, { sure: false, comma })
    } catch (failed) {
      if (isLatest()) setError(reasonOf(failed))
    }
  }

  const open = (file: File | undefined) => {
    if (!file) return
    forget()
    void readFile(file, MOST).then(begin, (failed: Error) => setError(failed.message))
  }

  const take = () =>
    act.run(
      async (to) => {
        setProgress({ what: 'Storing', done: 0, total: plan?.total ?? 0 })
        const body = { csv, mapping, sure, comma, store: true }
        return importGoods(to, body, (done, total) => setProgress({ what: 'Storing', done, total })).finally(
          () => setProgress(null),
        )
      },
      (done) => {
        // What is faulty stays on screen until it is put away.
        if (done.faults.length || done.doubts.length) setPlan(done)
        else forget()
      },
      (done) => `Took ${counted(done.created + done.changed, 'row')}`,
    )

  const map = (column: string, header: string) => {
    const next = Object.fromEntries(
      Object.entries({ ...mapping, [column]: header }).filter(([, name]) => name !== ''),
    )
    setMapping(next)
    void look(csv, next, { sure, comma })
  }
  const doing = plan && !plan.stored ? plan.created + plan.changed : 0
  return (
    <div className="flex max-w-4xl flex-col gap-2">
      <p>
        <a className="underline underline-offset-2" href="/api/products.csv" download>
          Take the whole catalogue as CSV
        </a>
        <span className="text-soft">
          : a row for each product and each variant; what a variant has from its product is empty.
        </span>
      </p>
      <p className="text-soft">
        Read products from CSV: rows are known again by their SKU, new ones are added, and a column that the
        file has not stays as it is. Bare weights are in {setup.store?.weight_unit}, bare lengths in{' '}
        {setup.store?.length_unit}; “12 oz” and “1.5 in” are fine.
      </p>
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
          open(event.dataTransfer.files[0])
        }}
      >
        <Input
          bare
          type="file"
          accept=".csv,.tsv,.txt,text/csv"
          aria-label="A CSV file of products"
          onChange={(event) => {
            open(event.target.files?.[0])
            event.target.value = ''
          }}
        />
        <span className="text-soft">or drop it here; at most {MOST} MB</span>
        {(head || error) && (
          <Button look="quiet" className="ml-auto" onClick={forget}>
            Put it away
          </Button>
        )}
      </div>
      {!head && (
        <TextArea
          className="w-full"
          rows={3}
          aria-label="Products as CSV"
          placeholder={'or paste it:\nsku,name,price,weight\nBUOY-40,Mooring buoy,48.00,3.1 kg'}
          value={csv}
          onChange={(event) => void begin(event.target.value)}
        />
      )}
      {(error ?? act.message) && <FieldError>{error ?? act.message}</FieldError>}
      {head && (
        <>
          <h3 className="text-base">Which column is which?</h3>
          <div className="grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-2">
            {TABLE.map(([column, name]) => (
              <label key={column} className="flex flex-col font-cond text-soft">
                {name}
                <Select
                  label={name}
                  className={`${column === 'sku' && !mapping.sku ? 'border-2 border-brick' : ''}`}
                  value={mapping[column] ?? ''}
                  choices={[
                    ['', 'not in the file'],
                    ...head.headers.map((header) => [header, header] as const),
                  ]}
                  choose={(value) => map(column, value)}
                />
                <span className="truncate text-xs">
                  {mapping[column]
                    ? head.rows
                        .map((row) => row[head.headers.indexOf(mapping[column]!)])
                        .filter(Boolean)
                        .slice(0, 3)
                        .join(' · ')
                    : ''}
                  {head.units[column] &&
                    mapping[column] === head.mapping[column] &&
                    ` (bare figures in ${head.units[column]})`}
                </span>
              </label>
            ))}
          </div>
          <Tick
            on={comma}
            change={(on) => {
              setComma(on)
              void look(csv, mapping, { sure, comma: on })
            }}
          >
            Numbers are written 1,5 rather than 1.5
          </Tick>
        </>
      )}
      {progress && (
        <p aria-live="polite" className="flex items-center gap-3">
          <progress
            className="h-2 w-64"
            max={progress.total || 1}
            value={progress.total ? progress.done : undefined}
          />
          {progress.what}
          {progress.total > 0 && `: ${count(progress.done)} of ${counted(progress.total, 'row')}`}
        </p>
      )}
      {plan && (
        <div aria-live="polite" className="border-t border-hair pt-2">
          <p>
            {counted(plan.total, 'row')}: <b>{plan.created}</b> new, <b>{plan.changed}</b> changed,{' '}
            <b>{plan.unchanged}</b> as they are, <b>{plan.faults.length}</b> with a fault
            {plan.doubts.length > 0 && (
              <>
                , <b>{plan.doubts.length}</b> in doubt
              </>
            )}
            {plan.new_classes.length > 0 && `; classes that come with it: ${list(plan.new_classes)}`}
          </p>
          <Changes samples={plan.samples} />
          {plan.doubts.length > 0 && (
            <Panel tone="doubt" alert={false} className="mt-2">
              <p>Does one unit really weigh that much? These rows wait for your answer:</p>
              <ul className="max-h-28 overflow-y-auto text-xs">
                {plan.doubts.slice(0, SHOWN).map(({ line, sku, weight, meant }) => (
                  <li key={line}>
                    Line {line}, {sku}: {weight}
                    {meant && ` (perhaps ${meant})`}
                  </li>
                ))}
              </ul>
              <Tick
                className="mt-1"
                on={sure}
                change={(on) => {
                  setSure(on)
                  void look(csv, mapping, { sure: on, comma })
                }}
              >
                They are right as they stand
              </Tick>
            </Panel>
          )}
          {plan.faults.length > 0 && (
            <div className="mt-2">
              <ul className="max-h-36 overflow-y-auto">
                {plan.faults.slice(0, SHOWN).map((fault) => (
                  <li key={fault.line}>
                    <FieldError>
                      Line {fault.line}
                      {fault.sku && `, ${fault.sku}`}
                      {fault.field && `, ${fault.field.replaceAll('_', ' ')}`}: {fault.detail}
                    </FieldError>
                  </li>
                ))}
              </ul>
              {plan.faults.length > SHOWN && (
                <p className="text-soft">and {plan.faults.length - SHOWN} more</p>
              )}
              {plan.faulty_csv && (
                <a
                  className="underline underline-offset-2"
                  download="faulty-products.csv"
                  href={`data:text/csv;charset=utf-8,${encodeURIComponent(`\uFEFF${plan.faulty_csv}`)}`}
                >
                  Take the faulty rows as CSV, with the reasons
                </a>
              )}
            </div>
          )}
          {!plan.stored && (
            <Button
              className="mt-2 border-ink font-semibold"
              disabled={doing === 0 || progress !== null}
              onClick={take}
            >
              {plan.faults.length || plan.doubts.length
                ? `Take the good rows: ${count(doing)}`
                : `Take ${counted(doing, 'row')}`}
            </Button>
          )}
          {plan.stored && (
            <p className="mt-2 font-medium">
              The good rows are taken. These are left: correct them in the file and take it again.
            </p>
          )}
        </div>
      )}
    </div>
  )
}
