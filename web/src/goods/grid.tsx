import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual'
import { ArrowDown, ArrowUp, Plus } from 'lucide-react'
import { useEffect, useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react'
import { toast } from '../ui/toast'
import type { Product } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useBenchCart } from '../bench/cart'
import { CellNote } from './cell-note'
import { COLUMNS, shownIn, type Column, type FieldName } from './columns'
import { keyOf, useCells, type CellEdit } from './use-cells'
import { useRows, type Asked } from './use-rows'

const ROW = 32
const HEAD = 30
const MOST_PASTED = 2000

export interface Selection {
  all: boolean
  ids: ReadonlySet<string>
}

interface Props {
  asked: Asked
  ask: (changes: Partial<Asked>) => void
  selection: Selection
  select: (selection: Selection) => void
  open: (product: Product) => void
  opened: string | null
}

interface Place {
  row: number
  column: number
}

/** The catalogue as a table that scrolls through any number of rows, edited cell by cell from the keyboard. */
export function Grid({ asked, ask, selection, select, open, opened }: Props) {
  const { setup } = useWorkshop()
  const { add } = useBenchCart()
  const scroller = useRef<HTMLDivElement>(null)
  const [active, setActive] = useState<Place>({ row: 0, column: 0 })
  const [typed, setTyped] = useState<string | null>(null)
  const typing = useRef(false)
  // Whose cell is being typed into: it stays that product's, wherever its row goes.
  const [begun, setBegun] = useState<Product | null>(null)
  const [focus, setFocus] = useState(0)
  const [view, setView] = useState<[number, number]>([0, 40])
  const rows = useRows(asked, view[0], view[1])
  const { faults, store, forget } = useCells(rows.take)
  const total = rows.total ?? 0
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 10,
    scrollPaddingStart: HEAD,
    rangeExtractor: (range) => {
      const found = defaultRangeExtractor(range)
      // The cell with the focus stays, however far one scrolls.
      return active.row < total && !found.includes(active.row)
        ? [...found, active.row].sort((a, b) => a - b)
        : found
    },
    onChange: ({ range }) => {
      if (range && (range.startIndex !== view[0] || range.endIndex !== view[1]))
        setView([Math.max(0, range.startIndex - 10), range.endIndex + 10])
    },
  })

  useEffect(() => {
    if (focus === 0) return
    const cell = scroller.current?.querySelector<HTMLElement>('[data-active]')
    cell?.focus({ preventScroll: true })
    cell?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }, [focus])

  const go = (row: number, column: number) => {
    const place = {
      row: Math.max(0, Math.min(total - 1, row)),
      column: Math.max(0, Math.min(COLUMNS.length - 1, column)),
    }
    typing.current = false
    setTyped(null)
    setActive(place)
    virtual.scrollToIndex(place.row, { align: 'auto' })
    setFocus((count) => count + 1)
  }

  const product = rows.at(active.row)
  const column = COLUMNS[active.column]!
  const editable = (item: Product, of: Column): of is Column & { field: FieldName } =>
    of.field !== 'treatments' && (of.own || !item.inherited)

  const begin = (text: string | null) => {
    if (!product) return
    if (column.field === 'treatments') return open(product)
    if (!editable(product, column))
      return void toast(`A variant has this from its product, ${product.inherited?.name}.`)
    if (column.field === 'hazardous' || column.field === 'ships')
      return void store([{ product, field: column.field, text: product[column.field] ? 'no' : 'yes' }])
    const fault = faults.get(keyOf(product.id, column.field))
    const own = shownIn(column, product, setup)
    typing.current = true
    setBegun(product)
    setTyped(text ?? fault?.text ?? (own.from ? '' : own.text))
  }

  const commit = (text: string) => {
    // Enter stores and takes the field away, which also takes the focus from it: once is enough.
    if (!typing.current) return
    typing.current = false
    if (begun && editable(begun, column)) {
      const shown = shownIn(column, begun, setup)
      if (text !== (shown.from ? '' : shown.text)) void store([{ product: begun, field: column.field, text }])
      else forget([keyOf(begun.id, column.field)])
    }
    setTyped(null)
  }

  const toggle = (id: string) => {
    const ids = new Set(selection.ids)
    if (!ids.delete(id)) ids.add(id)
    select({ all: false, ids })
  }

  const keys = (event: KeyboardEvent) => {
    const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / ROW) - 2)
    const step: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageUp: [-page, 0],
      PageDown: [page, 0],
    }
    if (typed !== null || event.altKey) return
    const by = step[event.key]
    const command = event.ctrlKey || event.metaKey
    if (by && !command) go(active.row + by[0], active.column + by[1])
    else if (event.key === 'Home') go(command ? 0 : active.row, command ? active.column : 0)
    else if (event.key === 'End')
      go(command ? total - 1 : active.row, command ? active.column : COLUMNS.length - 1)
    else if (event.key === 'Enter' && command) {
      if (product) open(product)
    } else if (event.key === 'Enter' || event.key === 'F2') begin(null)
    else if (event.key === 'Dead' || event.key === 'Process') {
      // The sign is still being composed: the field takes it from here.
      begin('')
      return event.stopPropagation()
    } else if (event.key === ' ' && event.shiftKey) {
      if (product) toggle(product.id)
    } else if ((event.key === 'Delete' || event.key === 'Backspace') && product && editable(product, column))
      void store([{ product, field: column.field, text: '' }])
    else if (event.key === ' ' && (column.field === 'hazardous' || column.field === 'ships')) begin(null)
    else if (event.key.length === 1 && !command && event.key !== ' ' && column.field !== 'treatments')
      begin(event.key)
    else return
    event.preventDefault()
    event.stopPropagation()
  }

  const paste = async (event: ClipboardEvent) => {
    if (typed !== null) return
    event.preventDefault()
    const lines = event.clipboardData.getData('text').replace(/\r/g, '').replace(/\n$/, '').split('\n')
    if (lines.length > MOST_PASTED)
      return void toast.error(`Paste at most ${MOST_PASTED} rows at once. This has ${lines.length}.`)
    const start = active
    const found = await rows.fetchRows(start.row, lines.length)
    const edits = lines.slice(0, found.length).flatMap((line, down) =>
      line.split('\t').flatMap((text, right): CellEdit[] => {
        const at = COLUMNS[start.column + right]
        const item = found[down]!
        return at && editable(item, at) ? [{ product: item, field: at.field, text: text.trim() }] : []
      }),
    )
    if (lines.length > found.length)
      toast(`${lines.length - found.length} pasted rows lie below the last product and were left out.`)
    if (edits.length) void store(edits)
  }

  if (rows.error) return <p role="alert">{rows.error.message}</p>
  const width = COLUMNS.reduce((sum, { width: own }) => sum + own, 28 + 30)
  return (
    <>
      {faults.size > 0 && (
        <p className="mb-1 flex flex-wrap items-baseline gap-2 border-l-4 border-brick bg-white px-2 py-1">
          <span className="font-medium text-brick">
            <span aria-hidden>▲ </span>
            {faults.size === 1 ? 'One cell is' : `${faults.size} cells are`} not stored yet:
          </span>
          {[...faults.values()].slice(0, 4).map((fault) => (
            <button
              key={keyOf(fault.product.id, fault.field)}
              type="button"
              className="underline underline-offset-2"
              onClick={() => {
                const row = virtual
                  .getVirtualItems()
                  .find((item) => rows.at(item.index)?.id === fault.product.id)?.index
                if (row !== undefined)
                  go(
                    row,
                    COLUMNS.findIndex(({ field }) => field === fault.field),
                  )
              }}
            >
              {COLUMNS.find(({ field }) => field === fault.field)?.label} of {fault.product.name}
            </button>
          ))}
          <button type="button" className="quiet" onClick={() => forget([...faults.keys()])}>
            Leave them all
          </button>
        </p>
      )}
      <div
        ref={scroller}
        role="grid"
        aria-label="Catalogue"
        aria-rowcount={total + 1}
        aria-colcount={COLUMNS.length + 2}
        aria-multiselectable
        className="relative min-h-40 flex-1 overflow-auto border-y border-edge bg-sheet"
        onKeyDown={keys}
        onPaste={(event) => void paste(event)}
        onCopy={(event) => {
          if (typed !== null || !product || getSelection()?.toString()) return
          event.preventDefault()
          event.clipboardData.setData('text', shownIn(column, product, setup).text)
        }}
      >
        <div role="rowgroup" className="sticky top-0 z-10 bg-paper" style={{ width, height: HEAD }}>
          <div
            role="row"
            aria-rowindex={1}
            className="flex h-full items-end border-b border-edge font-cond text-soft"
          >
            <span role="columnheader" aria-colindex={1} className="w-7 shrink-0 pb-1 text-center">
              <input
                type="checkbox"
                aria-label="Choose everything that is found"
                checked={selection.all}
                onChange={() => select({ all: !selection.all, ids: new Set() })}
              />
            </span>
            {COLUMNS.map((of, index) => (
              <ColumnHead key={of.field} column={of} index={index} asked={asked} ask={ask} />
            ))}
            <span role="columnheader" aria-colindex={COLUMNS.length + 2} className="sr-only">
              Bench
            </span>
          </div>
        </div>
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() + 90, width }}>
          {virtual.getVirtualItems().map(({ index, start }) => {
            const item = rows.at(index)
            const chosen = item !== undefined && (selection.all || selection.ids.has(item.id))
            return (
              <div
                key={item?.id ?? index}
                role="row"
                aria-rowindex={index + 2}
                aria-selected={chosen}
                className={`absolute flex items-stretch border-b border-hair ${item && opened === item.id ? 'bg-white' : chosen ? 'bg-sand/50' : ''} ${index === active.row ? 'z-[1]' : ''}`}
                style={{ top: start, height: ROW, width }}
              >
                <span role="gridcell" aria-colindex={1} className="grid w-7 shrink-0 place-items-center">
                  {item && (
                    <input
                      type="checkbox"
                      tabIndex={-1}
                      aria-label={`Choose ${item.name}`}
                      checked={chosen}
                      onChange={() => toggle(item.id)}
                    />
                  )}
                </span>
                {COLUMNS.map((of, at) => {
                  const row = typed === null || !begun ? index === active.row : item?.id === begun.id
                  const here = row && at === active.column
                  const fault = item && faults.get(keyOf(item.id, of.field))
                  return (
                    <Cell
                      key={of.field}
                      column={of}
                      index={at}
                      product={item}
                      fault={fault?.text}
                      active={here}
                      typed={here ? typed : null}
                      type={setTyped}
                      open={() => item && open(item)}
                      commit={commit}
                      go={(down, right) => go(index + down, at + right)}
                      press={(again) => {
                        typing.current = false
                        setTyped(null)
                        setActive({ row: index, column: at })
                        if (here && again) begin(null)
                        else setFocus((count) => count + 1)
                      }}
                      note={
                        here && fault && typed === null ? (
                          <CellNote
                            fault={fault}
                            now={shownIn(of, item, setup).text}
                            store={(text, sure) =>
                              void store([{ product: item, field: fault.field, text }], sure)
                            }
                            forget={() => forget([keyOf(item.id, fault.field)])}
                          />
                        ) : null
                      }
                    />
                  )
                })}
                <span
                  role="gridcell"
                  aria-colindex={COLUMNS.length + 2}
                  className="grid w-[30px] place-items-center"
                >
                  {item && (
                    <button
                      type="button"
                      tabIndex={-1}
                      className="quiet min-w-[24px] px-0"
                      aria-label={`Bench: add ${item.name}`}
                      title="Put it on the bench"
                      onClick={() => add(item.sku!)}
                    >
                      <Plus size={13} aria-hidden />
                    </button>
                  )}
                </span>
              </div>
            )
          })}
        </div>
      </div>
    </>
  )
}

function ColumnHead({
  column,
  index,
  asked,
  ask,
}: {
  column: Column
  index: number
  asked: Asked
  ask: (changes: Partial<Asked>) => void
}) {
  const { setup } = useWorkshop()
  const sorted = column.sort !== undefined && asked.sort === column.sort
  const unit = ['length', 'width', 'height'].includes(column.field) ? `, ${setup.store!.length_unit}` : ''
  // A third press goes back to the catalogue's own order.
  const next = () =>
    ask(
      sorted && asked.descending
        ? { sort: '', descending: false }
        : { sort: column.sort!, descending: sorted },
    )
  return (
    <span
      role="columnheader"
      aria-colindex={index + 2}
      aria-sort={sorted ? (asked.descending ? 'descending' : 'ascending') : undefined}
      className={`shrink-0 pb-1 ${column.numeric ? 'px-1 text-right' : 'pr-1 pl-2'}`}
      style={{ width: column.width }}
      title={unit ? `${{ L: 'Length', W: 'Width', H: 'Height' }[column.label]}${unit}` : undefined}
    >
      {column.sort ? (
        <button
          type="button"
          className={`inline-flex items-center gap-0.5 hover:underline ${sorted ? 'text-ink' : ''}`}
          onClick={next}
        >
          {column.label}
          {sorted &&
            (asked.descending ? <ArrowDown size={12} aria-hidden /> : <ArrowUp size={12} aria-hidden />)}
        </button>
      ) : (
        <>
          {column.label}
          <span className="sr-only">{unit}</span>
        </>
      )}
    </span>
  )
}

interface CellProps {
  column: Column
  index: number
  product: Product | undefined
  /** What was typed there and could not be stored. */
  fault: string | undefined
  active: boolean
  typed: string | null
  type: (text: string) => void
  commit: (text: string) => void
  go: (down: number, right: number) => void
  /** Opens the product. */
  open: () => void
  /** Pointed at, for the first time or when it had the focus already. */
  press: (again: boolean) => void
  note: React.ReactNode
}

function Cell({
  column,
  index,
  product,
  fault,
  active,
  typed,
  type,
  commit,
  go,
  open,
  press,
  note,
}: CellProps) {
  const { setup } = useWorkshop()
  const shown = product ? shownIn(column, product, setup) : { text: '…', from: null }
  const label = product ? `${column.label} of ${product.name}` : column.label
  const flag = column.field === 'hazardous' || column.field === 'ships'
  const ordinary = column.field === 'ships' ? 'yes' : 'no'
  const indented = column.field === 'sku' && product?.parent
  const done = (event: KeyboardEvent<HTMLElement>, text: string) => {
    if (event.nativeEvent.isComposing) return
    const to: Record<string, [number, number]> = {
      Enter: [event.shiftKey ? -1 : 1, 0],
      Tab: [0, event.shiftKey ? -1 : 1],
    }
    const by = to[event.key]
    if (event.key === 'Escape') go(0, 0)
    else if (by) {
      commit(text)
      go(by[0], by[1])
    } else return
    event.preventDefault()
    event.stopPropagation()
  }
  return (
    <div
      role="gridcell"
      aria-colindex={index + 2}
      data-cell={product ? `${product.sku} ${column.field}` : undefined}
      data-active={active || undefined}
      tabIndex={active && typed === null ? 0 : -1}
      aria-invalid={fault !== undefined || undefined}
      className={`relative flex shrink-0 items-center ${fault !== undefined ? 'outline-2 -outline-offset-2 outline-brick' : ''} ${column.numeric ? 'justify-end' : ''} focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-ink`}
      style={{ width: column.width }}
      onMouseDown={(event) => {
        if (typed !== null || (event.target as HTMLElement).closest('button, input, select')) return
        event.preventDefault()
        press(event.currentTarget === document.activeElement)
      }}
    >
      {typed !== null && column.field === 'class' ? (
        <select
          autoFocus
          aria-label={label}
          className="field absolute inset-0 w-full px-0.5"
          defaultValue={setup.classes.find(({ name }) => name === typed)?.name ?? ''}
          onChange={(event) => {
            commit(event.target.value)
            go(0, 0)
          }}
          onBlur={() => go(0, 0)}
          onKeyDown={(event) => event.key === 'Escape' && done(event, '')}
        >
          <option value="">{product?.inherited ? 'as its product' : 'no class'}</option>
          {setup.classes.map(({ id, name }) => (
            <option key={id}>{name}</option>
          ))}
        </select>
      ) : typed !== null ? (
        <input
          autoFocus
          aria-label={label}
          className={`absolute inset-0 z-10 min-w-full border-2 border-ink bg-white px-1 ${column.numeric ? 'text-right' : ''}`}
          value={typed}
          autoComplete="off"
          spellCheck={false}
          onChange={(event) => type(event.target.value)}
          onBlur={() => commit(typed)}
          onKeyDown={(event) => done(event, typed)}
        />
      ) : (
        <span
          className={`truncate ${column.numeric ? 'px-1' : 'pr-1 pl-2'} ${shown.from ? 'text-soft italic' : ''} ${indented ? 'pl-3' : ''} ${flag && shown.text === ordinary ? 'text-soft' : ''} ${product?.variants && column.field === 'name' ? 'font-medium' : ''}`}
          title={shown.from ? `from ${shown.from}` : shown.text}
        >
          {shown.from && <span className="sr-only">from its product: </span>}
          {indented && <span aria-hidden>└ </span>}
          {column.field === 'name' && product ? (
            <button
              type="button"
              tabIndex={-1}
              className="rounded-xs underline decoration-hair underline-offset-4 hover:decoration-ink"
              aria-label={`Open ${product.name}`}
              onClick={open}
            >
              {fault ?? shown.text}
            </button>
          ) : (
            (fault ?? shown.text)
          )}
        </span>
      )}
      {note}
    </div>
  )
}
