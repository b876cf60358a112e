import { Status } from '../ui/alerts'
import { useState } from 'react'
import { useWorkshop } from '../edits/workshop'
import { FieldError } from '../ui/field-error'
import { count, counted, list } from '../ui/locale'
import { Changes } from './changes'
import { COLUMNS, WORDS } from './columns'
import { MOST, useGoodsFile, type GoodsFile, type Head, type Imported } from './goods-file'
import { Select } from '../ui/select'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'
import { Input, TextArea } from '../ui/input'
import { Panel } from '../ui/said'

/** The columns of a table of goods, each with what it is called here. */
const FIELDS = COLUMNS.map(({ field }) => field).filter((field) => field !== 'treatments')
const TABLE = [FIELDS[0]!, 'variant_of', ...FIELDS.slice(1), 'tax_class'].map(
  (field) => [field, WORDS[field] ?? field.replaceAll('_', ' ')] as const,
)
const SHOWN = 30

/** The catalogue out and in: choose a file, say what its columns are, see what it would do, take it. */
export function ProductsCsv() {
  const { setup } = useWorkshop()
  const file = useGoodsFile()
  const { csv, head, mapping, comma, plan, progress, error } = file
  const [dragged, setDragged] = useState(false)
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
          file.open(event.dataTransfer.files[0])
        }}
      >
        <Input
          bare
          type="file"
          accept=".csv,.tsv,.txt,text/csv"
          aria-label="A CSV file of products"
          onChange={(event) => {
            file.open(event.target.files?.[0])
            event.target.value = ''
          }}
        />
        <span className="text-soft">or drop it here; at most {MOST} MB</span>
        {(head || error) && (
          <Button look="quiet" className="ml-auto" onClick={file.forget}>
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
          onChange={(event) => void file.begin(event.target.value)}
        />
      )}
      {error && <FieldError>{error}</FieldError>}
      {head && (
        <>
          <Columns head={head} mapping={mapping} map={file.map} />
          <Tick on={comma} change={file.writtenWithCommas}>
            Numbers are written 1,5 rather than 1.5
          </Tick>
        </>
      )}
      {progress && (
        <p className="flex items-center gap-3">
          <progress
            className="h-2 w-64"
            max={progress.total || 1}
            value={progress.total ? progress.done : undefined}
          />
          <Status as="span">{progress.what}</Status>
          {progress.total > 0 && `: ${count(progress.done)} of ${counted(progress.total, 'row')}`}
        </p>
      )}
      {plan && <Result plan={plan} file={file} />}
    </div>
  )
}

/** Which column of the file is which of our fields, with a few of its values. */
function Columns({
  head,
  mapping,
  map,
}: {
  head: Head
  mapping: Record<string, string>
  map: (column: string, header: string) => void
}) {
  return (
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
              choices={[['', 'not in the file'], ...head.headers.map((header) => [header, header] as const)]}
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
    </>
  )
}

/** What the file would change, with the rows that are wrong; after storing, the rows that were left out. */
function Result({ plan, file }: { plan: Imported; file: GoodsFile }) {
  const doing = plan.stored ? 0 : plan.created + plan.changed
  return (
    <div className="border-t border-hair pt-2">
      <Status>
        {counted(plan.total, 'row')}: <b>{plan.created}</b> new, <b>{plan.changed}</b> changed,{' '}
        <b>{plan.unchanged}</b> as they are, <b>{plan.faults.length}</b> with a fault
        {plan.doubts.length > 0 && (
          <>
            , <b>{plan.doubts.length}</b> in doubt
          </>
        )}
        {plan.new_classes.length > 0 && `; classes that come with it: ${list(plan.new_classes)}`}
      </Status>
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
          <Tick className="mt-1" on={file.sure} change={file.meant}>
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
          {plan.faults.length > SHOWN && <p className="text-soft">and {plan.faults.length - SHOWN} more</p>}
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
          disabled={doing === 0 || file.progress !== null}
          onClick={file.take}
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
  )
}
