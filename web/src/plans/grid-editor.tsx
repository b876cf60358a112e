import { Plus, X } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import type { Zone } from '../api/client'
import { FieldError } from '../ui/field-error'
import { counted } from '../ui/locale'
import { type ScheduleProps } from './draft'
import { MEASURES, measureWords, unitOf } from '../words/measures'
import { PartPlaces } from '../zones/part-places'
import { usePlanZone } from './plan-zone'
import { Sheet } from '../ui/sheet/sheet'
import { tableOf, type SheetCell, type SheetColumn } from '../ui/sheet/types'
import {
  byParts,
  EDGE,
  grown,
  measured,
  withHead,
  without,
  withPart,
  writtenInto,
  type Grid,
  type GridPart,
  type GridRow as Row,
} from './grid-changes'
import { COLUMNS, pasteGrid, ROWS, type GridPlace } from './paste'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

const PARTS = 'parts'

/** Two measures across each other: a table of amounts; a blank cell is something not said yet. */
export function GridEditor({ label, schedule, store, change, commit, errorAt }: ScheduleProps<Grid>) {
  const [lost, setLost] = useState(0)
  const zone = usePlanZone()
  const rows = schedule.rows.at ?? []
  const areas = schedule.columns.areas
  const columns = areas ? areas.map(({ name }) => name) : (schedule.columns.at ?? [])
  const cells = schedule.cells
  const replace = (next: Grid) => {
    change(() => next)
    commit(next)
  }
  const write = (written: SheetCell<Row>[]) => change((old) => writtenInto(old, written))
  /** Grows the grid where what is pasted needs room. */
  const paste = (place: GridPlace, table: string[][]) => {
    const pasted = pasteGrid(schedule, place, table)
    replace(pasted.schedule)
    setLost(pasted.lost)
    return true
  }
  const side = (which: 'rows' | 'columns', name: string) => (
    <label className="flex items-center gap-1.5">
      {name}
      <Select
        label={`${label}: ${name}`}
        value={schedule[which].measure ?? PARTS}
        choices={[which === 'columns' && [PARTS, 'parts of the zone'], ...MEASURES]}
        choose={(value) =>
          replace(value === PARTS ? byParts(schedule) : measured(schedule, which, value, store))
        }
      />
    </label>
  )
  const pointerOf = (which: 'rows' | 'columns', at: number) =>
    which === 'columns' && areas ? `/columns/areas/${at}/name` : `/${which}/at/${at}`
  const removing = (which: 'rows' | 'columns', at: number) =>
    (which === 'columns' ? columns : rows).length > 1 &&
    (at > 0 || (which === 'columns' && areas !== undefined)) && (
      <Button
        look="quiet"
        className="min-w-7 shrink-0 px-0"
        tabIndex={which === 'rows' ? -1 : 0}
        aria-label={`${label}: take ${which === 'rows' ? 'row' : 'column'} ${at + 1} out`}
        onClick={() => replace(without(schedule, which, at))}
      >
        <X size={12} aria-hidden />
      </Button>
    )
  const head = (at: number, text: string) => (
    <>
      <span className="flex items-center">
        <Input
          className="w-full min-w-0 font-sans font-medium"
          aria-label={`${label}: column ${at + 1}`}
          aria-invalid={errorAt(pointerOf('columns', at)) ? true : undefined}
          placeholder={areas ? 'name' : ''}
          value={text}
          onChange={(event) => change((old) => withHead(old, at, event.target.value))}
          onBlur={() => commit()}
          onKeyDown={(event) => {
            if (event.key === 'Enter') commit()
          }}
          onPaste={(event) => {
            const table = tableOf(event.clipboardData.getData('text'))
            if (table.length === 1 && table[0]!.length === 1) return
            event.preventDefault()
            paste({ columns: at }, table)
          }}
        />
        {removing('columns', at)}
      </span>
      {areas && (
        <Places
          label={`${label}: column ${at + 1}`}
          part={areas[at]!}
          zone={zone}
          change={(next) => replace(withPart(schedule, at, next))}
          errorAt={(below) => errorAt(`/columns/areas/${at}/areas${below}`)}
        />
      )}
    </>
  )
  const list: Row[] = rows.map((text, at) => ({ edge: text, cells: cells[at] ?? [] }))
  const sheet: SheetColumn<Row>[] = [
    {
      id: EDGE,
      head: <span className="sr-only">Edges</span>,
      width: 92,
      text: (row) => row.edge,
      show: (_, text) => <span className="pr-1 pl-2 font-medium">{text}</span>,
      label: (_, index) => `${label}: row ${index + 1}`,
    },
    ...columns.map((text, at): SheetColumn<Row> => ({
      id: String(at),
      head: head(at, text),
      width: areas ? 150 : 100,
      text: (row) => row.cells[at] ?? '',
      placeholder: () => 'not said',
      label: (_, index) => `${label}: row ${index + 1}, column ${at + 1}`,
    })),
    {
      id: 'remove',
      head:
        columns.length < COLUMNS ? (
          <Button
            look="quiet"
            className="px-1"
            aria-label={`${label}: add a column`}
            onClick={() => replace(grown(schedule, 'columns'))}
          >
            <Plus size={13} aria-hidden />
          </Button>
        ) : (
          <span className="sr-only">Remove</span>
        ),
      width: 34,
      text: () => '',
      label: () => '',
      act: (_, index) => index > 0 && replace(without(schedule, 'rows', index)),
      show: (_row, _text, index) => removing('rows', index),
    },
  ]
  const faultAt = (_: Row, index: number, column: string) => {
    const message = errorAt(column === EDGE ? `/rows/at/${index}` : `/cells/${index}/${column}`)
    return message ? { message } : undefined
  }
  const problems = [
    ...rows.map((_, at) => errorAt(`/rows/at/${at}`)),
    ...columns.flatMap((_, at) => [
      errorAt(pointerOf('columns', at)),
      areas && errorAt(`/columns/areas/${at}/areas`),
    ]),
    ...cells.flatMap((row, down) => row.map((_, right) => errorAt(`/cells/${down}/${right}`))),
  ].filter(Boolean)
  return (
    <div>
      <p className="mb-1 flex flex-wrap gap-3">
        {side('rows', 'Down')}
        {side('columns', 'Across')}
        <span className="self-center text-xs text-soft">
          Edges are written as in steps
          {unitOf(schedule.rows.measure, store) &&
            ` (${measureWords(schedule.rows.measure)} in ${unitOf(schedule.rows.measure, store)})`}
          ; “none” is not available.
        </span>
      </p>
      <Sheet
        label={`${label}: grid`}
        columns={sheet}
        rows={{
          count: list.length,
          at: (index) => list[index],
          idOf: (_, index) => String(index + 1),
          byPlace: true,
        }}
        put={(written) => {
          write(written)
          commit()
        }}
        typing={(cell, over) => {
          write([cell])
          if (over) commit()
        }}
        takes={(table, row, column) =>
          paste(column === EDGE ? { rows: row } : { row, column: Number(column) }, table)
        }
        faultAt={faultAt}
        rowHead={EDGE}
        headHeight={areas ? 64 : 40}
        className="max-h-96 w-fit max-w-full border-y border-edge"
      />
      {rows.length < ROWS && (
        <Button look="quiet" className="px-0" onClick={() => replace(grown(schedule, 'rows'))}>
          <Plus size={13} aria-hidden /> Add a row
        </Button>
      )}
      {lost > 0 && (
        <FieldError>
          A grid has at most {ROWS} rows and {COLUMNS} columns: {counted(lost, 'pasted cell')} did not fit.
        </FieldError>
      )}
      {problems.slice(0, 2).map((problem, index) => (
        <FieldError key={index}>{problem}</FieldError>
      ))}
      {errorAt('/cells') && problems.length === 0 && <FieldError>{errorAt('/cells')}</FieldError>}
    </div>
  )
}

/** Which places a column is for, unfolded where it is wanted. */
function Places({
  label,
  part,
  zone,
  change,
  errorAt,
}: {
  label: string
  part: GridPart
  zone: Zone | undefined
  change: (part: GridPart) => void
  errorAt: (pointer: string) => string | undefined
}) {
  const places = part.areas.map(
    ({ country, only, regions }) => `${country ?? ''}${only?.length || regions?.length ? ' in part' : ''}`,
  )
  const said = places.join(', ') || 'not said'
  return (
    <Popover.Root>
      <Popover.Trigger
        className="quiet max-w-24 truncate px-0 text-xs font-normal"
        aria-label={`${label}: places, ${said}`}
        title={said}
      >
        {said}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={4} className="z-40 border border-ink bg-white p-3">
          <PartPlaces
            label={label}
            areas={part.areas}
            zone={zone}
            change={(areas) =>
              change({ name: part.name.trim() || areas.map(({ country }) => country).join(', '), areas })
            }
            errorAt={errorAt}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
