import { Status } from '../ui/alerts'
import { useWorkshop } from '../edits/workshop'
import { ImportButton, ImportFaults, ImportProgress, ImportSource } from '../forms/importer'
import { counted, list } from '../ui/locale'
import { Changes } from './changes'
import { COLUMNS, WORDS } from './columns'
import { MOST, useGoodsFile, type GoodsFile, type Head, type Imported } from './goods-file'
import { Select } from '../ui/select'
import { Tick } from '../ui/tick'
import { Panel } from '../ui/said'

/** The columns of a table of goods, each with what it is called here. */
const FIELDS = COLUMNS.map(({ field }) => field).filter((field) => field !== 'treatments')
const TABLE = [FIELDS[0]!, 'variant_of', ...FIELDS.slice(1), 'tax_class'].map(
  (field) => [field, WORDS[field] ?? field.replaceAll('_', ' ')] as const,
)
const SHOWN = 30

/** The catalogue out and in: choose a file, say what its columns are, see what it would change, import it. */
export function ProductsCsv() {
  const { setup } = useWorkshop()
  const file = useGoodsFile()
  const {
    chosen: { head, mapping, comma },
    plan,
  } = file
  return (
    <div className="flex max-w-4xl flex-col gap-2">
      <p>
        <a className="underline underline-offset-2" href="/api/products.csv" download>
          Download the catalogue as CSV
        </a>
        <span className="text-soft">
          : one row for each product and each variant. A variant’s cell is empty where its product’s value
          applies.
        </span>
      </p>
      <p className="text-soft">
        Import products from CSV: rows with a known SKU change that product, other rows add one, and missing
        columns change nothing. Weights without a unit are in {setup.store?.weight_unit}, lengths in{' '}
        {setup.store?.length_unit}; “12 oz” and “1.5 in” work too.
      </p>
      <ImportSource
        of={file}
        many="products"
        most={MOST}
        rows={3}
        placeholder={'or paste it:\nsku,name,price,weight\nBUOY-40,Mooring buoy,48.00,3.1 kg'}
      >
        {head && (
          <>
            <Columns head={head} mapping={mapping} map={(to) => file.choose({ mapping: to })} />
            <Tick on={comma} change={(on) => file.choose({ comma: on })}>
              Decimals are written with a comma (1,5)
            </Tick>
          </>
        )}
      </ImportSource>
      <ImportProgress of={file} />
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
  map: (mapping: Record<string, string>) => void
}) {
  const choose = (column: string, header: string) =>
    map(
      Object.fromEntries(Object.entries({ ...mapping, [column]: header }).filter(([, name]) => name !== '')),
    )
  return (
    <>
      <h3 className="text-base">Match the columns</h3>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-2">
        {TABLE.map(([column, name]) => (
          <label key={column} className="flex flex-col font-cond text-soft">
            {name}
            <Select
              label={name}
              className={`${column === 'sku' && !mapping.sku ? 'border-2 border-brick' : ''}`}
              value={mapping[column] ?? ''}
              choices={[['', 'Not in the file'], ...head.headers.map((header) => [header, header] as const)]}
              choose={(value) => choose(column, value)}
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
                ` (in ${head.units[column]})`}
            </span>
          </label>
        ))}
      </div>
    </>
  )
}

/** What the file would change, with the rows that are wrong; after storing, the rows that were left out. */
function Result({ plan, file }: { plan: Imported; file: GoodsFile }) {
  const { created, changed, unchanged, faults, doubts } = plan
  return (
    <div className="border-t border-hair pt-2">
      <Status>
        {counted(plan.total, 'row')}: <b>{created}</b> new, <b>{changed}</b> changed, <b>{unchanged}</b>{' '}
        unchanged, <b>{faults.length}</b> with errors
        {doubts.length > 0 && (
          <>
            , <b>{doubts.length}</b> to confirm
          </>
        )}
        {plan.new_classes.length > 0 && `; new classes: ${list(plan.new_classes)}`}
      </Status>
      <Changes samples={plan.samples} />
      {doubts.length > 0 && (
        <Panel tone="doubt" alert={false} className="mt-2">
          <p>These weights look wrong. Confirm them, or correct the file:</p>
          <ul className="max-h-28 overflow-y-auto text-xs">
            {doubts.slice(0, SHOWN).map(({ line, sku, weight, meant }) => (
              <li key={line}>
                Line {line}, {sku}: {weight}
                {meant && ` (perhaps ${meant})`}
              </li>
            ))}
          </ul>
          <Tick className="mt-1" on={file.chosen.sure} change={(on) => file.choose({ sure: on })}>
            These weights are right
          </Tick>
        </Panel>
      )}
      {faults.length > 0 && (
        <div className="mt-2">
          <ImportFaults faults={faults} />
          {plan.faulty_csv && (
            <a
              className="underline underline-offset-2"
              download="rows-with-errors.csv"
              href={`data:text/csv;charset=utf-8,${encodeURIComponent(`\uFEFF${plan.faulty_csv}`)}`}
            >
              Download the rows with errors as CSV
            </a>
          )}
        </div>
      )}
      {plan.stored ? (
        <p className="mt-2 font-medium">
          The good rows were imported. Correct the others in the file and import it again.
        </p>
      ) : (
        <ImportButton
          of={file}
          rows={created + changed}
          what="row"
          partly={faults.length + doubts.length > 0}
        />
      )}
    </div>
  )
}
