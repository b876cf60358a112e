import { Plus, X } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useState, type ClipboardEvent, type KeyboardEvent } from 'react'
import type { Zone } from '../api/client'
import { FieldError } from '../ui/field'
import { counted } from '../ui/format'
import {
  MEASURES,
  measureWords,
  unitOf,
  zeroOf,
  type Measure,
  type Schedule,
  type ScheduleProps,
} from './draft'
import { PartPlaces, type AreaDocument } from '../zones/part-places'
import { usePlanZone } from './plan-zone'
import { COLUMNS, pasteGrid, ROWS, tableOf, type GridPlace } from './paste'

const PARTS = 'parts'

/** Two measures across each other: a table of amounts; a blank cell is something not said yet. */
export function GridEditor({ label, schedule, store, change, commit, errorAt }: ScheduleProps) {
  const [lost, setLost] = useState(0)
  const zone = usePlanZone()
  const rows = schedule.rows?.at ?? []
  const areas = schedule.columns?.areas
  const columns = areas ? areas.map(({ name }) => name) : (schedule.columns?.at ?? [])
  const cells = schedule.cells ?? []
  const replace = (next: Schedule) => {
    change(() => next)
    commit(next)
  }
  const setCell = (row: number, column: number, text: string) =>
    change((old) => ({
      ...old,
      cells: (old.cells ?? []).map((list, at) =>
        at === row ? list.map((cell, right) => (right === column ? text : cell)) : list,
      ),
    }))
  const setEdge = (side: 'rows' | 'columns', at: number, text: string) =>
    change((old) => {
      const scale = old[side]!
      if (side === 'columns' && scale.areas)
        return {
          ...old,
          columns: {
            ...scale,
            areas: scale.areas.map((area, index) => (index === at ? { ...area, name: text } : area)),
          },
        }
      return {
        ...old,
        [side]: { ...scale, at: (scale.at ?? []).map((edge, index) => (index === at ? text : edge)) },
      }
    })
  const add = (side: 'rows' | 'columns') => {
    if (side === 'rows')
      return replace({
        ...schedule,
        rows: { ...schedule.rows!, at: [...rows, ''] },
        cells: [...cells, columns.map(() => null)],
      })
    replace({
      ...schedule,
      columns: areas
        ? { areas: [...areas, { name: '', areas: [] }] }
        : { ...schedule.columns!, at: [...columns, ''] },
      cells: cells.map((row) => [...row, null]),
    })
  }
  const drop = (side: 'rows' | 'columns', at: number) => {
    const without = <Item,>(list: Item[]) => list.filter((_, index) => index !== at)
    replace(
      side === 'rows'
        ? { ...schedule, rows: { ...schedule.rows!, at: without(rows) }, cells: without(cells) }
        : {
            ...schedule,
            columns: areas
              ? { ...schedule.columns, areas: without(areas) }
              : { ...schedule.columns!, at: without(columns) },
            cells: cells.map(without),
          },
    )
  }
  const rename = (side: 'rows' | 'columns', measure: Measure) => {
    const scale = schedule[side]!
    const at = (scale.at ?? [scale.areas ? '' : '0', ...(scale.areas ?? []).slice(1).map(() => '')]).map(
      (text, index) => (index === 0 ? zeroOf(measure, store) : text.replace(/\s*[a-z]+[23]?$/i, '')),
    )
    replace({ ...schedule, [side]: { measure, at } })
  }
  /** A column for each part of the zone: as many as there are, to be named and filled. */
  const byParts = () =>
    replace({ ...schedule, columns: { areas: columns.map(() => ({ name: '', areas: [] })) } })
  const setPart = (at: number, part: { name: string; areas: AreaDocument[] }) =>
    replace({
      ...schedule,
      columns: { areas: (areas ?? []).map((other, index) => (index === at ? part : other)) },
    })
  const paste = (place: GridPlace, event: ClipboardEvent) => {
    const table = tableOf(event.clipboardData.getData('text'))
    if (!table) return
    event.preventDefault()
    const pasted = pasteGrid(schedule, place, table)
    change(() => pasted.schedule)
    setLost(pasted.lost)
  }
  const keys = (event: KeyboardEvent) => {
    const place = /^(\d+) (\d+)$/.exec((event.target as HTMLElement).dataset.place ?? '')
    const by = { Enter: 1, ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (!place || by === undefined) return
    event.preventDefault()
    if (event.key === 'Enter') commit()
    event.currentTarget
      .querySelector<HTMLElement>(`[data-place="${Number(place[1]) + by} ${place[2]}"]`)
      ?.focus()
  }
  const side = (which: 'rows' | 'columns', name: string) => (
    <label className="flex items-center gap-1.5">
      {name}
      <select
        className="field"
        aria-label={`${label}: ${name}`}
        value={schedule[which]?.measure ?? PARTS}
        onChange={(event) =>
          event.target.value === PARTS ? byParts() : rename(which, event.target.value as Measure)
        }
      >
        {which === 'columns' && <option value={PARTS}>parts of the zone</option>}
        {MEASURES.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </label>
  )
  const pointerOf = (which: 'rows' | 'columns', at: number) =>
    which === 'columns' && areas ? `/columns/areas/${at}/name` : `/${which}/at/${at}`
  const edge = (which: 'rows' | 'columns', at: number, text: string) => (
    <span className="flex items-center">
      <input
        className={`field font-medium ${which === 'columns' && areas ? 'w-32' : 'w-20'}`}
        aria-label={`${label}: ${which === 'rows' ? 'row' : 'column'} ${at + 1}`}
        aria-invalid={errorAt(pointerOf(which, at)) ? true : undefined}
        placeholder={which === 'columns' && areas ? 'name' : ''}
        value={text}
        onChange={(event) => setEdge(which, at, event.target.value)}
        onPaste={(event) => paste(which === 'rows' ? { rows: at } : { columns: at }, event)}
      />
      {(which === 'columns' ? columns : rows).length > 1 && (at > 0 || (which === 'columns' && areas)) && (
        <button
          type="button"
          className="quiet min-w-[24px] px-0"
          aria-label={`${label}: take ${which === 'rows' ? 'row' : 'column'} ${at + 1} out`}
          onClick={() => drop(which, at)}
        >
          <X size={12} aria-hidden />
        </button>
      )}
    </span>
  )
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
          {unitOf(schedule.rows?.measure, store) &&
            ` (${measureWords(schedule.rows?.measure)} in ${unitOf(schedule.rows?.measure, store)})`}
          ; “none” is not available.
        </span>
      </p>
      <div
        className="max-h-96 max-w-full overflow-auto"
        onKeyDown={keys}
        onBlur={(event) => !event.currentTarget.contains(event.relatedTarget) && commit()}
      >
        <table>
          <thead>
            <tr>
              <th>
                <span className="sr-only">Edges</span>
              </th>
              {columns.map((text, at) => (
                <th key={at} className="pr-1 pb-1 text-left">
                  {edge('columns', at, text)}
                  {areas && (
                    <Places
                      label={`${label}: column ${at + 1}`}
                      part={areas[at]!}
                      zone={zone}
                      change={(next) => setPart(at, next)}
                      errorAt={(below) => errorAt(`/columns/areas/${at}/areas${below}`)}
                    />
                  )}
                </th>
              ))}
              <th>
                {columns.length < COLUMNS && (
                  <button
                    type="button"
                    className="quiet px-1"
                    aria-label={`${label}: add a column`}
                    onClick={() => add('columns')}
                  >
                    <Plus size={13} aria-hidden />
                  </button>
                )}
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((text, row) => (
              <tr key={row}>
                <th className="pr-2 pb-1">{edge('rows', row, text)}</th>
                {columns.map((_, column) => (
                  <td key={column} className="pr-1 pb-1">
                    <input
                      className="field w-20"
                      data-place={`${row} ${column}`}
                      aria-label={`${label}: row ${row + 1}, column ${column + 1}`}
                      aria-invalid={errorAt(`/cells/${row}/${column}`) ? true : undefined}
                      placeholder="not said"
                      value={cells[row]?.[column] ?? ''}
                      onChange={(event) => setCell(row, column, event.target.value)}
                      onPaste={(event) => paste({ row, column }, event)}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows.length < ROWS && (
        <button type="button" className="quiet px-0" onClick={() => add('rows')}>
          <Plus size={13} aria-hidden /> Add a row
        </button>
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
  part: { name: string; areas: AreaDocument[] }
  zone: Zone | undefined
  change: (part: { name: string; areas: AreaDocument[] }) => void
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
