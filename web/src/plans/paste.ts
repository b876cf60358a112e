import type { ScheduleOf } from '../words/measures'

type Grid = ScheduleOf<'grid'>

export const ROWS = 50
export const COLUMNS = 30

/** Where something is pasted in a grid: at a cell, or at an edge of its rows or columns. */
export type GridPlace = { row: number; column: number } | { rows: number } | { columns: number }

interface Pasted {
  schedule: Grid
  /** Cells that were past the largest grid. */
  lost: number
}

/** The grid with what was pasted, grown where that needs room. At an edge the first cells are edges too. */
export function pasteGrid(schedule: Grid, place: GridPlace, table: string[][]): Pasted {
  if ('columns' in place) {
    const [edges = [], ...rest] = table
    const corner = edges[0] === ''
    const withEdges = putColumns(schedule, place.columns, corner ? edges.slice(1) : edges)
    const below = corner
      ? pasteGrid(withEdges, { rows: 0 }, rest)
      : putCells(withEdges, 0, place.columns, rest)
    return rest.length ? below : { schedule: withEdges, lost: 0 }
  }
  if ('rows' in place) {
    const withEdges = putRows(
      schedule,
      place.rows,
      table.map(([edge = '']) => edge),
    )
    return putCells(
      withEdges,
      place.rows,
      0,
      table.map((row) => row.slice(1)),
    )
  }
  return putCells(schedule, place.row, place.column, table)
}

function putRows(schedule: Grid, from: number, edges: string[]): Grid {
  const grown = grow(schedule, from + edges.length, 0)
  const at = (grown.rows.at ?? []).map((edge, index) => edges[index - from] ?? edge)
  return { ...grown, rows: { ...grown.rows, at } }
}

function putColumns(schedule: Grid, from: number, edges: string[]): Grid {
  const grown = grow(schedule, 0, from + edges.length)
  if (grown.columns.areas) return grown
  const at = (grown.columns.at ?? []).map((edge, index) => edges[index - from] ?? edge)
  return { ...grown, columns: { ...grown.columns, at } }
}

function putCells(schedule: Grid, row: number, column: number, table: string[][]): Pasted {
  const wide = Math.max(0, ...table.map((cells) => cells.length))
  const grown = grow(schedule, row + table.length, column + wide)
  const height = grown.cells.length
  const width = grown.cells[0]?.length ?? 0
  const lost = table
    .flatMap((cells, down) =>
      cells.filter((cell, right) => cell && (down + row >= height || right + column >= width)),
    )
    .filter(Boolean).length
  const cells = grown.cells.map((list, down) =>
    list.map((cell, right) => {
      const text = right >= column ? table[down - row]?.[right - column] : undefined
      return down >= row && text !== undefined ? text || null : cell
    }),
  )
  return { schedule: { ...grown, cells }, lost }
}

/** More rows and columns, as far as a grid goes; parts of a zone are not made by pasting. */
function grow(schedule: Grid, rows: number, columns: number): Grid {
  const areas = schedule.columns.areas
  const down = schedule.rows.at ?? []
  const right = schedule.columns.at ?? []
  const height = Math.max(down.length, Math.min(rows, ROWS))
  const width = areas ? areas.length : Math.max(right.length, Math.min(columns, COLUMNS))
  const longer = (list: string[], size: number) => [
    ...list,
    ...Array<string>(Math.max(0, size - list.length)).fill(''),
  ]
  return {
    ...schedule,
    rows: { ...schedule.rows, at: longer(down, height) },
    columns: areas ? schedule.columns : { ...schedule.columns, at: longer(right, width) },
    cells: Array.from({ length: height }, (_, row) =>
      Array.from({ length: width }, (_, column) => schedule.cells[row]?.[column] ?? null),
    ),
  }
}
