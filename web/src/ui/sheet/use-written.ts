import { useEffect, useRef } from 'react'
import type { SheetCell, SheetColumn, SheetRows } from './types'

/** How many changes of cells can be undone. */
const REMEMBERED = 100

type Done<Row> = { cells: SheetCell<Row>[]; before: string[] }

/** Writes cells of a sheet, and keeps what was there before, for undo and redo. */
export function useWritten<Row>(
  columns: readonly SheetColumn<Row>[],
  rows: SheetRows<Row>,
  put: (cells: SheetCell<Row>[]) => void,
  typing: ((cell: SheetCell<Row>, over: boolean) => void) | undefined,
) {
  const done = useRef<Done<Row>[]>([])
  const undone = useRef<Done<Row>[]>([])
  const forget = () => {
    done.current = []
    undone.current = []
  }
  // Where rows or columns are known by their places, and some went or came otherwise than by writing, what was written
  // before no longer stands where it stood: it is not written back, and undoing goes to the last change as a whole.
  const size = rows.byPlace ? `${rows.count} ${columns.length}` : ''
  const wrote = useRef(false)
  useEffect(() => {
    if (!wrote.current) forget()
    wrote.current = false
  }, [size])
  /** Writes cells, and remembers what stood there. */
  const write = (cells: SheetCell<Row>[]) => {
    if (cells.length === 0) return
    const before = cells.map(({ row, column }) =>
      row === undefined ? '' : (columns.find(({ id }) => id === column)?.text(row) ?? ''),
    )
    done.current = [...done.current.slice(1 - REMEMBERED), { cells, before }]
    undone.current = []
    grow(cells)
  }
  /** Writing into the last row or below it adds rows: these come by writing. */
  const tell = (cells: SheetCell<Row>[]) => {
    wrote.current = cells.some(({ index }) => index >= rows.count - 1)
    return cells
  }
  const grow = (cells: SheetCell<Row>[]) => put(tell(cells))
  const hear = (cell: SheetCell<Row>) => tell([cell]).forEach((one) => typing?.(one, false))
  const step = (from: typeof done, to: typeof done, texts: (one: Done<Row>) => string[]) => {
    const one = from.current.pop()
    if (!one) return false
    to.current.push(one)
    const again = texts(one)
    grow(
      one.cells.map((cell, at) => {
        // The row as it is now, unless it is out of reach.
        const row = rows.at(cell.index)
        const same = row && cell.row && rows.idOf(row, cell.index) === rows.idOf(cell.row, cell.index)
        return { ...cell, row: same || cell.row === undefined ? row : cell.row, text: again[at] ?? '' }
      }),
    )
    return true
  }
  // With nothing left to undo here, the key still belongs to the sheet: it must not undo something else.
  return {
    write,
    hear,
    forget,
    /** Whether the key was for the sheet. */
    undo: () => step(done, undone, ({ before }) => before) || undone.current.length > 0,
    redo: () => step(undone, done, ({ cells }) => cells.map(({ text }) => text)) || done.current.length > 0,
  }
}
