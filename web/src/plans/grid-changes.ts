import type { Schemas } from '../api/client'
import type { SheetCell } from '../ui/sheet/types'
import { zeroOf, type Measure, type ScheduleOf } from '../words/measures'
import type { AreaDocument } from '../zones/part-places'

export type Grid = ScheduleOf<'grid'>
type Side = 'rows' | 'columns'

/** A column that stands for a part of the zone. */
export interface GridPart {
  name: string
  areas: AreaDocument[]
}

/** A row as the sheet shows it. */
export interface GridRow {
  edge: string
  cells: readonly (string | null)[]
}

/** The column of the sheet that holds the rows' edges. */
export const EDGE = 'edge'

/** How many columns there are, whatever they stand for. */
const columnsOf = ({ columns }: Grid) => (columns.areas ?? columns.at ?? []).length

export function writtenInto(grid: Grid, written: SheetCell<GridRow>[]): Grid {
  const at = [...(grid.rows.at ?? [])]
  const cells = grid.cells.map((list) => [...list])
  for (const { index, column, text } of written)
    if (column === EDGE) at[index] = text
    else if (cells[index]) cells[index][Number(column)] = text || null
  return { ...grid, rows: { ...grid.rows, at }, cells }
}

/** The edge, or the name, of a column. */
export function withHead(grid: Grid, at: number, text: string): Grid {
  const scale = grid.columns
  const areas = scale.areas?.map((area, index) => (index === at ? { ...area, name: text } : area))
  const edges = scale.at?.map((edge, index) => (index === at ? text : edge))
  return { ...grid, columns: { ...scale, ...(areas ? { areas } : { at: edges ?? [] }) } }
}

/** One more row or column, empty. */
export function grown(grid: Grid, side: Side): Grid {
  if (side === 'rows')
    return {
      ...grid,
      rows: { ...grid.rows, at: [...(grid.rows.at ?? []), ''] },
      cells: [...grid.cells, Array.from({ length: columnsOf(grid) }, () => null)],
    }
  const { areas, at } = grid.columns
  return {
    ...grid,
    columns: areas
      ? { areas: [...areas, { name: '', areas: [] }] }
      : { ...grid.columns, at: [...(at ?? []), ''] },
    cells: grid.cells.map((row) => [...row, null]),
  }
}

export function without(grid: Grid, side: Side, at: number): Grid {
  const rest = <Item>(list: Item[]) => list.filter((_, index) => index !== at)
  if (side === 'rows')
    return { ...grid, rows: { ...grid.rows, at: rest(grid.rows.at ?? []) }, cells: rest(grid.cells) }
  const { areas, at: edges } = grid.columns
  return {
    ...grid,
    columns: { ...grid.columns, ...(areas ? { areas: rest(areas) } : { at: rest(edges ?? []) }) },
    cells: grid.cells.map(rest),
  }
}

/** Another measure down or across: the first edge is its zero, the others lose their units. */
export function measured(grid: Grid, side: Side, measure: Measure, store: Schemas['Store']): Grid {
  const { areas, at } = grid[side]
  const edges = at ?? [areas ? '' : '0', ...(areas ?? []).slice(1).map(() => '')]
  return {
    ...grid,
    [side]: {
      measure,
      at: edges.map((text, index) =>
        index === 0 ? zeroOf(measure, store) : text.replace(/\s*[a-z]+[23]?$/i, ''),
      ),
    },
  }
}

/** A column for each part of the zone: as many as there are, to be named and filled. */
export const byParts = (grid: Grid): Grid => ({
  ...grid,
  columns: { areas: Array.from({ length: columnsOf(grid) }, () => ({ name: '', areas: [] })) },
})

export const withPart = (grid: Grid, at: number, part: GridPart): Grid => ({
  ...grid,
  columns: { areas: (grid.columns.areas ?? []).map((other, index) => (index === at ? part : other)) },
})
