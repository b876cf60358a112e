import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react'
import { toast } from '../toast'
import { useWritten } from './use-written'
import { rangeOf, tableOf, type Place, type SheetCell, type SheetColumn, type SheetRows } from './types'

/** The most rows that are pasted, filled or emptied at once. */
const MOST = 2000

interface Settings<Row> {
  columns: readonly SheetColumn<Row>[]
  rows: SheetRows<Row>
  put: (cells: SheetCell<Row>[]) => void
  /** Told what is being typed, and at the end, where it is given up, what was there. */
  typing?: ((cell: SheetCell<Row>, over: boolean) => void) | undefined
  /** Rows that pasting may add below the last one. */
  grows?: number
  /** How many rows a page is. */
  page: () => number
  show: (row: number) => void
  /** Takes what is pasted at a cell itself, where the sheet would lose some of it; says whether it did. */
  takes?: ((table: string[][], row: number, column: string) => boolean) | undefined
  /** What was typed there before and is not stored. */
  kept: (row: Row, index: number, column: string) => string | undefined
}

/** A cell that is being typed into: it stays that row's, wherever its row goes. */
export interface Begun<Row> {
  row: Row
  id: string
  index: number
  column: number
  text: string
}

/** By how many rows and columns a key moves. */
function moveOf(key: string, command: boolean, page: number, rows: number, columns: number) {
  const by: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
    PageUp: [-page, 0],
    PageDown: [page, 0],
    Home: [command ? -rows : 0, -columns],
    End: [command ? rows : 0, columns],
  }
  return by[key]
}

/** Where one is in a sheet, what is chosen there, and what keys and the clipboard do. */
export function useSheet<Row>({
  columns,
  rows,
  put,
  typing,
  grows = 0,
  page,
  show,
  takes,
  kept,
}: Settings<Row>) {
  const [active, setActive] = useState<Place>({ row: 0, column: 0 })
  const [other, setOther] = useState<Place>(active)
  const [begun, setBegun] = useState<Begun<Row> | null>(null)
  const [focus, setFocus] = useState(0)
  /** What is in the field just now; only the field is drawn while one types. */
  const typed = useRef('')
  // Enter writes and takes the field away, which also takes the focus from it: once is enough.
  const alive = useRef(false)
  const { write, undo, redo, hear, forget } = useWritten(columns, rows, put, typing)
  const range = rangeOf(active, other)
  const single = range.top === range.bottom && range.left === range.right

  const clamp = ({ row, column }: Place): Place => ({
    row: Math.max(0, Math.min(rows.count - 1, row)),
    column: Math.max(0, Math.min(columns.length - 1, column)),
  })
  const go = (to: Place, extend = false) => {
    const place = clamp(to)
    setBegun(null)
    setActive(place)
    if (!extend) setOther(place)
    show(place.row)
    setFocus((count) => count + 1)
  }
  const open = (row: Row, column: SheetColumn<Row>) => !column.act && !column.closed?.(row)

  const begin = (text: string | null, at: Place = active) => {
    const row = rows.at(at.row)
    const column = columns[at.column]
    if (row === undefined || !column) return
    if (column.act) return column.act(row, at.row)
    const why = column.closed?.(row)
    if (why) return void toast(why)
    if (column.flag)
      return write([
        { index: at.row, row, column: column.id, text: column.text(row) === 'yes' ? 'no' : 'yes' },
      ])
    const shown = kept(row, at.row, column.id) ?? column.text(row)
    typed.current = text ?? shown
    alive.current = true
    setBegun({ row, id: rows.idOf(row, at.row), index: at.row, column: at.column, text: typed.current })
    if (typed.current !== shown) hear({ index: at.row, row, column: column.id, text: typed.current })
  }
  const type = (text: string) => {
    typed.current = text
    const column = begun && columns[begun.column]
    if (column) hear({ index: begun.index, row: begun.row, column: column.id, text })
  }

  /** Rows from the clipboard or of a range: fetched where they are not here. */
  const rowsFrom = async (start: number, length: number): Promise<Row[]> => {
    const within = Math.min(length, Math.max(0, rows.count - start))
    const here = Array.from({ length: within }, (_, at) => rows.at(start + at))
    if (here.every((row) => row !== undefined)) return here
    return (await rows.fetch?.(start, within)) ?? []
  }
  const tooMany = (count: number) => {
    if (count <= MOST) return false
    toast.error(`At most ${MOST} rows are changed at once. This has ${count}.`)
    return true
  }
  /** Writes over a range whatever `textAt` says of each cell. */
  const overwrite = async (textAt: (down: number, column: SheetColumn<Row>, first: Row) => string | null) => {
    if (tooMany(range.bottom - range.top + 1)) return
    const found = await rowsFrom(range.top, range.bottom - range.top + 1)
    const first = found[0]
    if (first === undefined) return
    write(
      found.flatMap((row, down) =>
        columns.slice(range.left, range.right + 1).flatMap((column) => {
          const text = open(row, column) ? textAt(down, column, first) : null
          return text === null ? [] : [{ index: range.top + down, row, column: column.id, text }]
        }),
      ),
    )
  }

  const paste = async (event: ClipboardEvent) => {
    if (begun) return
    event.preventDefault()
    const lines = tableOf(event.clipboardData.getData('text'))
    if (tooMany(lines.length)) return
    const [[alone, ...more] = [], ...below] = lines
    if (alone !== undefined && more.length + below.length === 0 && !single)
      return overwrite((_, column) => (column.flag ? null : alone))
    const begins = columns[range.left]
    if (begins && takes?.(lines, range.top, begins.id)) return forget()
    const found = await rowsFrom(range.top, lines.length)
    const room = rows.count + grows - range.top
    write(
      lines.slice(0, room).flatMap((line, down) =>
        line.flatMap((text, right): SheetCell<Row>[] => {
          const column = columns[range.left + right]
          const row = found[down]
          if (!column || (row === undefined ? column.act : !open(row, column))) return []
          return [{ index: range.top + down, row, column: column.id, text }]
        }),
      ),
    )
    const left = lines.length - Math.min(lines.length, grows ? room : found.length)
    if (left > 0)
      toast(
        left === 1
          ? '1 pasted row lies below the last row and was left out.'
          : `${left} pasted rows lie below the last row and were left out.`,
      )
  }

  const copy = (event: ClipboardEvent) => {
    if (begun || getSelection()?.toString()) return
    event.preventDefault()
    const text = (list: Row[]) =>
      list
        .map((row) =>
          columns
            .slice(range.left, range.right + 1)
            .map((column) => (column.copied ?? column.text)(row).replace(/[\t\n]/g, ' '))
            .join('\t'),
        )
        .join('\n')
    const here = Array.from({ length: range.bottom - range.top + 1 }, (_, at) => rows.at(range.top + at))
    if (here.every((row) => row !== undefined)) return event.clipboardData.setData('text', text(here))
    void rowsFrom(range.top, here.length).then((list) => navigator.clipboard.writeText(text(list)))
  }

  const keys = (event: KeyboardEvent) => {
    if (begun || event.altKey) return
    const command = event.ctrlKey || event.metaKey
    const move = moveOf(event.key, command, page(), rows.count, columns.length)
    // What is typed goes where a range began, as in every spreadsheet.
    const place = single ? active : other
    const column = columns[place.column]
    if (!column) return
    const letter = event.key.toLowerCase()
    if (move && !(command && event.key.startsWith('Arrow')))
      go({ row: active.row + move[0], column: active.column + move[1] }, event.shiftKey)
    else if (command && letter === 'a') {
      setOther({ row: 0, column: 0 })
      go({ row: rows.count - 1, column: columns.length - 1 }, true)
    } else if (command && letter === 'd') {
      void overwrite((down, of, first) => (down > 0 && !of.flag ? of.text(first) : null))
    } else if (command && letter === 'z' && !event.shiftKey) {
      // Taken back once more than was typed here: that is no reason to take back something else.
      if (!undo()) return
    } else if (command && (letter === 'y' || letter === 'z')) {
      if (!redo()) return
    } else if (event.key === 'Escape') {
      if (single) return
      go(active)
    } else if (event.key === 'Delete' || event.key === 'Backspace')
      void overwrite((_, of) => (of.flag ? null : ''))
    else if (command) return
    else if (event.key === 'Enter' || event.key === 'F2') begin(null, place)
    else if (event.key === ' ' && (column.flag || column.act)) begin(null, place)
    else if (event.key === 'Dead' || event.key === 'Process') {
      // The sign is still being composed: the field takes it from here.
      begin('', place)
      return event.stopPropagation()
    } else if (event.key.length === 1 && event.key !== ' ' && !column.act && !column.flag)
      begin(event.key, place)
    else return
    event.preventDefault()
    event.stopPropagation()
  }

  /** Ends typing: with what is in the field, or without. */
  const end = (keep: boolean) => {
    if (!begun || !alive.current) return
    alive.current = false
    const { row, index } = begun
    const column = columns[begun.column]
    if (!column) return
    const before = column.text(row)
    const cell = { index, row, column: column.id, text: typed.current }
    setBegun(null)
    if (!keep) typing?.({ ...cell, text: before }, true)
    else if (typed.current !== (kept(row, index, column.id) ?? before)) write([cell])
  }

  /** Pointed at a cell: it becomes the active one; typing begins where it was that already. */
  const press = (place: Place, extend: boolean, again: boolean) => {
    end(true)
    if (again && !extend) begin(null, place)
    else go(place, extend)
  }

  return { active, range, single, begun, focus, go, keys, paste, copy, type, end, press }
}
