import {
  columnResizingFeature,
  columnSizingFeature,
  tableFeatures,
  useTable,
  type ColumnDef,
} from '@tanstack/react-table'
import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual'
import {
  memo,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
} from 'react'
import { Button } from '../button'
import { counted } from '../locale'
import { Input } from '../input'
import { Select } from '../select'
import type { SheetCell, SheetColumn, SheetFault, SheetRows } from './types'
import { useSheet, type Begun } from './use-sheet'

/** Pixels of a row and of the head, at the page's own size of text; and up to how many rows all of them are drawn. */
const ROW = 32
const FEW = 60
const FEW_COLUMNS = 12
const OWN_SIZE = 14

/** What one press of Alt+Shift and an arrow adds to the width of a column, and the least that it has. */
const WIDER: Record<string, number> = { ArrowRight: 16, ArrowLeft: -16 }
const LEAST = 32

const features = tableFeatures({ columnSizingFeature, columnResizingFeature })

/** What the table is of: its rows are drawn by place, as they come into view. */
type Shown = Record<string, never>
const NOTHING: Shown[] = []

export interface SheetProps<Row> {
  label: string
  columns: readonly SheetColumn<Row>[]
  rows: SheetRows<Row>
  /** Writes cells, of one keystroke or of a thousand rows. */
  put: (cells: SheetCell<Row>[]) => void
  /** Called with what is being typed, before it is written; at the end, where it is given up, with what was there. */
  typing?: (cell: SheetCell<Row>, over: boolean) => void
  /** What can't be taken, by row and column. */
  faultAt?: (row: Row, index: number, column: string) => SheetFault | undefined
  /** What stands below the active cell, where something is wrong with it; its message where this is left out. */
  note?: (row: Row, index: number, column: string) => ReactNode
  /** How many rows pasting may add below the last one. */
  grows?: number
  /** Takes what is pasted at a cell itself, where the sheet would lose some of it; says whether it did. */
  takes?: (table: string[][], row: number, column: string) => boolean
  chosen?: (row: Row) => boolean
  opened?: (row: Row) => boolean
  /** Keys that the sheet's own do not take, with the row one is at. */
  more?: (event: KeyboardEvent, row: Row) => void
  /** Called when the focus leaves the sheet. */
  left?: () => void
  /** Goes to a cell from outside. */
  goTo?: RefObject<((row: number, column: string) => void) | null>
  /** A header for each row, for a screen reader: the column that says what the row is. */
  rowHead?: string
  headHeight?: number
  /** In pixels, at the page's own size of text; of one line where this is left out. */
  rowHeight?: number
  className?: string
}

/**
 * Cells to type into, as in a spreadsheet: arrows, ranges, copying, pasting, filling down, undoing what was typed. Any
 * number of rows; only those in view are drawn.
 */
export function Sheet<Row>({
  label,
  columns,
  rows,
  put,
  typing,
  faultAt,
  note,
  grows = 0,
  takes,
  chosen,
  opened,
  more,
  left,
  goTo,
  rowHead,
  headHeight = 30,
  rowHeight = ROW,
  className = '',
}: SheetProps<Row>) {
  const scroller = useRef<HTMLDivElement>(null)
  const [scale] = useState(() => parseFloat(getComputedStyle(document.documentElement).fontSize) / OWN_SIZE)
  const height = rowHeight * scale
  const { count } = rows
  const sheet = useSheet({
    columns,
    rows,
    put,
    typing,
    grows,
    takes,
    page: () => Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / height) - 2),
    show: (row) => virtual.scrollToIndex(row, { align: 'auto' }),
    kept: (row, index, column) => faultAt?.(row, index, column)?.text,
  })
  const { active, range, single, begun, focus } = sheet
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 10,
    scrollPaddingStart: headHeight * scale,
    initialRect: { width: 600, height: 320 },
    rangeExtractor: (view) => {
      if (count * columns.length <= FEW * FEW_COLUMNS && count <= FEW)
        return Array.from({ length: count }, (_, row) => row)
      const found = defaultRangeExtractor(view)
      // The cell with the focus stays, however far one scrolls.
      return active.row < count && !found.includes(active.row)
        ? [...found, active.row].sort((one, two) => one - two)
        : found
    },
    onChange: ({ range: view }) => {
      if (view) rows.seen?.(Math.max(0, view.startIndex - 10), view.endIndex + 10)
    },
  })
  const items = virtual.getVirtualItems()
  const { table, sizes, widen } = useWidths(columns, scale)
  const widths = sizes.join(' ')
  const width = sizes.reduce((sum, one) => sum + one, 0)

  useEffect(() => {
    if (focus === 0) return
    const cell = scroller.current?.querySelector<HTMLElement>('[data-active]')
    cell?.focus({ preventScroll: true })
    cell?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }, [focus])
  useEffect(() => {
    if (goTo)
      goTo.current = (row, column) => sheet.go({ row, column: columns.findIndex(({ id }) => id === column) })
  })

  // Rows are drawn again only where something of theirs changed: what they call is always the newest.
  const newest = useRef({ sheet, rows })
  useEffect(() => {
    newest.current = { sheet, rows }
  })
  const dragging = useRef(false)
  const press = useCallback((row: number, column: number, extend: boolean, again: boolean) => {
    dragging.current = true
    addEventListener('mouseup', () => (dragging.current = false), { once: true })
    newest.current.sheet.press({ row, column }, extend, again)
  }, [])
  const over = useCallback((row: number, column: number) => {
    if (dragging.current) newest.current.sheet.go({ row, column }, true)
  }, [])
  const type = useCallback((text: string) => newest.current.sheet.type(text), [])
  const end = useCallback((keep: boolean, down = 0, right = 0) => {
    const { sheet: now, rows: there } = newest.current
    if (!now.begun) return
    const { column } = now.begun
    // Where the row went meanwhile, typing ends with it.
    const found = rowNow(there, now.begun)
    now.end(keep)
    if (found !== null) now.go({ row: found + down, column: column + right })
  }, [])

  return (
    <div
      ref={scroller}
      role="grid"
      aria-label={label}
      aria-rowcount={count + 1}
      aria-colcount={columns.length}
      aria-multiselectable
      className={`relative overflow-auto bg-sheet ${className}`}
      onKeyDown={(event) => {
        if (inHead(event)) return
        const by = WIDER[event.key]
        if (by && event.altKey && event.shiftKey && !begun) {
          event.preventDefault()
          widen(active.column, by)
          return
        }
        const row = rows.at(active.row)
        if (!begun && row !== undefined) more?.(event, row)
        if (!event.isDefaultPrevented()) sheet.keys(event)
      }}
      onPaste={(event) => {
        if (!inHead(event)) void sheet.paste(event)
      }}
      onCopy={(event) => {
        if (!inHead(event)) sheet.copy(event)
      }}
      onBlur={(event) => {
        if (left && !event.currentTarget.contains(event.relatedTarget)) left()
      }}
    >
      <SheetHead columns={columns} table={table} sizes={sizes} height={headHeight * scale} />
      <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize(), width }}>
        {items.map(({ index, start }) => {
          const row = rows.at(index)
          const id = row === undefined ? null : rows.idOf(row, index)
          // A sheet that has become shorter is still reached with Tab.
          const here = index === Math.min(active.row, count - 1)
          const typed = begun !== null && begun.id === id ? begun : null
          return (
            <SheetRow
              key={id ?? index}
              row={row}
              index={index}
              rowKey={row === undefined ? null : (rows.nameOf?.(row) ?? id)}
              columns={columns as readonly SheetColumn<unknown>[]}
              widths={widths}
              start={start}
              height={height}
              active={here && !begun ? active.column : typed ? typed.column : null}
              from={!single && index >= range.top && index <= range.bottom ? range.left : null}
              to={range.right}
              begun={typed}
              chosen={row !== undefined && (chosen?.(row) ?? false)}
              opened={row !== undefined && (opened?.(row) ?? false)}
              rowHead={rowHead}
              faultAt={faultAt as FaultAt | undefined}
              note={here && !begun ? (note as NoteAt | undefined) : undefined}
              press={press}
              over={over}
              type={type}
              end={end}
            />
          )
        })}
      </div>
    </div>
  )
}

/** How wide each column is, in pixels, as the merchant has made it. */
function useWidths<Row>(columns: readonly SheetColumn<Row>[], scale: number) {
  const defs = useMemo(
    () =>
      columns.map(({ id, width }): ColumnDef<typeof features, Shown> => ({
        id,
        size: width,
        minSize: 24,
        maxSize: 600,
      })),
    [columns],
  )
  const table = useTable({ features, columns: defs, data: NOTHING })
  const sizes = table.getAllLeafColumns().map((column) => column.getSize() * scale)
  /** Makes a column wider, or narrower. */
  const widen = (at: number, by: number) => {
    const column = table.getAllLeafColumns()[at]
    if (column)
      table.setColumnSizing((old) => ({ ...old, [column.id]: Math.max(LEAST, column.getSize() + by) }))
  }
  return { table, sizes, widen }
}

/** The heads of the columns, which stay in view; their edges are dragged. */
function SheetHead<Row>({
  columns,
  table,
  sizes,
  height,
}: {
  columns: readonly SheetColumn<Row>[]
  table: ReturnType<typeof useWidths>['table']
  sizes: number[]
  height: number
}) {
  return (
    <div
      role="rowgroup"
      className="sticky top-0 z-10 bg-paper"
      style={{ width: sizes.reduce((sum, one) => sum + one, 0), minHeight: height }}
    >
      <div
        role="row"
        aria-rowindex={1}
        className="flex items-end border-b border-edge font-cond leading-tight text-soft"
        style={{ minHeight: height }}
      >
        {table.getFlatHeaders().map((header, at) => {
          const column = columns[at]!
          return (
            <div
              key={column.id}
              role="columnheader"
              aria-colindex={at + 1}
              aria-sort={column.sorted}
              data-tip={column.title}
              className={`group relative shrink-0 pb-1 ${column.numeric ? 'px-1 text-right' : 'pr-1 pl-2'}`}
              style={{ width: sizes[at] }}
            >
              {column.head}
              <span
                aria-hidden
                className="absolute top-0 right-0 h-full w-1.5 cursor-col-resize touch-none group-hover:border-r-2 group-hover:border-edge"
                onMouseDown={header.getResizeHandler()}
                onTouchStart={header.getResizeHandler()}
                onDoubleClick={() => header.column.resetSize()}
              />
            </div>
          )
        })}
      </div>
    </div>
  )
}

/** What stands in the head has keys of its own. */
const inHead = ({ target }: { target: EventTarget }) =>
  target instanceof Element && target.closest('[role=columnheader]') !== null

/** Where the row is now that a cell of is being typed into. */
function rowNow<Row>(rows: SheetRows<Row>, begun: Begun<Row>): number | null {
  const there = rows.at(begun.index)
  if (there !== undefined && rows.idOf(there, begun.index) === begun.id) return begun.index
  return null
}

type FaultAt = (row: unknown, index: number, column: string) => SheetFault | undefined
type NoteAt = (row: unknown, index: number, column: string) => ReactNode

interface RowProps {
  row: unknown
  index: number
  rowKey: string | null
  columns: readonly SheetColumn<unknown>[]
  widths: string
  start: number
  height: number
  active: number | null
  /** The columns of the chosen range in this row. */
  from: number | null
  to: number
  begun: Begun<unknown> | null
  chosen: boolean
  opened: boolean
  rowHead: string | undefined
  faultAt: FaultAt | undefined
  note: NoteAt | undefined
  press: (row: number, column: number, extend: boolean, again: boolean) => void
  over: (row: number, column: number) => void
  type: (text: string) => void
  end: (keep: boolean, down?: number, right?: number) => void
}

/** Typing in one row of a thousand must not draw the others again. */
const SheetRow = memo(function SheetRow(props: RowProps) {
  const { row, index, rowKey, columns, active, from, to, begun, chosen, opened, faultAt, note } = props
  const widths = props.widths.split(' ')
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={chosen}
      className={`absolute flex items-stretch border-b border-hair ${opened ? 'bg-white' : chosen ? 'bg-sand/50' : ''} ${active === null ? '' : 'z-[1]'}`}
      style={{ top: props.start, height: props.height }}
    >
      {columns.map((column, at) => {
        const fault = row === undefined ? undefined : faultAt?.(row, index, column.id)
        const within = from !== null && at >= from && at <= to
        const here = active === at
        const editing = here && begun !== null
        const role = column.id === props.rowHead ? 'rowheader' : 'gridcell'
        const text = row === undefined ? '…' : (fault?.text ?? column.text(row))
        return (
          <div
            key={column.id}
            role={role}
            aria-colindex={at + 1}
            data-cell={rowKey === null ? undefined : `${rowKey} ${column.id}`}
            data-active={here || undefined}
            tabIndex={here && !editing ? 0 : -1}
            aria-invalid={fault !== undefined || undefined}
            aria-selected={within || undefined}
            aria-readonly={(row !== undefined && Boolean(column.act ?? column.closed?.(row))) || undefined}
            className={`relative flex shrink-0 items-center outline-none ${fault ? 'ring-2 ring-brick ring-inset' : 'focus:ring-2 focus:ring-ink focus:ring-inset'} ${within ? 'bg-lime/40' : ''} ${column.numeric ? 'justify-end' : ''}`}
            style={{ width: `${widths[at]}px` }}
            onMouseDown={(event) => {
              if (editing || (event.target instanceof Element && event.target.closest('button, input, a')))
                return
              event.preventDefault()
              props.press(index, at, event.shiftKey, event.currentTarget === document.activeElement)
            }}
            onMouseEnter={() => props.over(index, at)}
          >
            {editing && row !== undefined ? (
              <Typing column={column} row={row} begun={begun} type={props.type} end={props.end} />
            ) : row !== undefined && column.show ? (
              column.show(row, text, index)
            ) : (
              <span className={`truncate ${column.numeric ? 'px-1' : 'pr-1 pl-2'}`} data-tip={text}>
                {text ||
                  (row !== undefined && (
                    <span className="text-soft">{column.placeholder?.(row, index)}</span>
                  ))}
              </span>
            )}
            {here && fault && !editing && row !== undefined && (note?.(row, index, column.id) ?? null)}
          </div>
        )
      })}
    </div>
  )
})

interface TypingProps {
  column: SheetColumn<unknown>
  row: unknown
  begun: Begun<unknown>
  type: (text: string) => void
  end: (keep: boolean, down?: number, right?: number) => void
}

/** The field of a cell. What is typed stays in it until it is written, so that nothing else is drawn meanwhile. */
function Typing({ column, row, begun, type, end }: TypingProps) {
  const [text, setText] = useState(begun.text)
  const label = column.label(row, begun.index)
  const set = (next: string) => {
    setText(next)
    type(next)
  }
  if (column.choices)
    return (
      <Select
        open
        label={label}
        className="absolute inset-0 w-full px-0.5"
        value={text}
        choices={column.choices(row)}
        choose={set}
        closed={() => end(true)}
      />
    )
  return (
    <Input
      bare
      autoFocus
      aria-label={label}
      className={`absolute inset-0 z-10 min-w-full border-2 border-ink bg-white px-1 outline-none ${column.numeric ? 'text-right' : ''}`}
      value={text}
      spellCheck={false}
      onChange={(event) => set(event.target.value)}
      onBlur={() => end(true)}
      onKeyDown={(event) => {
        if (event.nativeEvent.isComposing) return
        if (event.key === 'Escape') end(false)
        else if (event.key === 'Enter') end(true, event.shiftKey ? -1 : 1)
        else if (event.key === 'Tab') end(true, 0, event.shiftKey ? -1 : 1)
        else if (event.key === 'ArrowDown' || event.key === 'ArrowUp')
          end(true, event.key === 'ArrowDown' ? 1 : -1)
        else return event.stopPropagation()
        event.preventDefault()
        event.stopPropagation()
      }}
    />
  )
}

/** How many cells are not stored yet, with a way to the first of them. */
export function Unstored({
  faults,
  go,
  forget,
}: {
  faults: { key: string; name: string }[]
  go: (key: string) => void
  forget: () => void
}) {
  if (faults.length === 0) return null
  return (
    <p className="mb-1 flex flex-wrap items-baseline gap-2 border-l-4 border-brick bg-white px-2 py-1">
      <span className="font-medium text-brick">
        <span aria-hidden>▲ </span>
        {faults.length === 1 ? 'One cell is' : `${counted(faults.length, 'cell')} are`} not stored yet:
      </span>
      {faults.slice(0, 4).map(({ key, name }) => (
        <Button look="bare" key={key} className="underline underline-offset-2" onClick={() => go(key)}>
          {name}
        </Button>
      ))}
      <Button look="quiet" onClick={forget}>
        Leave them all
      </Button>
    </p>
  )
}
