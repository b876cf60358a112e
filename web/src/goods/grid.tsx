import { ArrowDown, ArrowUp, Plus } from 'lucide-react'
import { useCallback, useMemo, useRef, useState } from 'react'
import type { Product } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useBenchCart } from '../cart/cart'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { Sheet, Unstored } from '../ui/sheet/sheet'
import type { SheetCell, SheetColumn } from '../ui/sheet/types'
import { Tick } from '../ui/tick'
import { CellNote } from './cell-note'
import { COLUMNS, shownIn, type Column, type FieldName } from './columns'
import { keyOf, useEditedCells, type CellEdit } from './edited-cells'
import { useRows, type Asked } from './use-rows'

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

const isField = (column: string): column is FieldName =>
  COLUMNS.some(({ field }) => field === column && field !== 'treatments')

/** The catalogue as a sheet of any number of products. */
export function Grid({ asked, ask, selection, select, open, opened }: Props) {
  const { setup } = useWorkshop()
  const { add } = useBenchCart()
  const [view, setView] = useState<[number, number]>([0, 40])
  const rows = useRows(asked, view[0], view[1])
  const { faults, typed, store, forget } = useEditedCells(rows.take)
  const goTo = useRef<((row: number, column: string) => void) | null>(null)

  const toggle = (id: string) => {
    const ids = new Set(selection.ids)
    if (!ids.delete(id)) ids.add(id)
    select({ all: false, ids })
  }
  const chosen = (product: Product) => selection.all || selection.ids.has(product.id)
  const put = (cells: SheetCell<Product>[]) =>
    store(
      cells.flatMap(({ row, column, text }): CellEdit[] =>
        row && isField(column) ? [{ product: row, field: column, text }] : [],
      ),
    )

  const columns: SheetColumn<Product>[] = [
    {
      id: 'chosen',
      head: (
        <Tick
          label="Choose everything that is found"
          className="-mb-1 -ml-2"
          on={selection.all}
          change={() => select({ all: !selection.all, ids: new Set() })}
        />
      ),
      width: 28,
      text: (product) => (chosen(product) ? 'yes' : ''),
      label: ({ name }) => `Choose ${name}`,
      act: ({ id }) => toggle(id),
      show: (product) => (
        <Tick
          label={`Choose ${product.name}`}
          tabIndex={-1}
          on={chosen(product)}
          change={() => toggle(product.id)}
        />
      ),
    },
    ...COLUMNS.map((column): SheetColumn<Product> => {
      const { field } = column
      const own = (product: Product) => {
        const { text, from } = shownIn(column, product, setup)
        return typed.get(keyOf(product.id, field)) ?? (from ? '' : text)
      }
      return {
        id: field,
        width: column.width,
        ...headOf(column, asked, ask, setup.store.length_unit),
        ...(column.numeric ? { numeric: true } : {}),
        text: own,
        copied: (product) => shownIn(column, product, setup).text,
        label: ({ name }) => `${column.label} of ${name}`,
        show: (product, text) => <Shown {...{ column, product, text, own: own(product), open }} />,
        closed: (product) =>
          column.own || !product.inherited
            ? null
            : `A variant has this from its product, ${product.inherited.name}.`,
        ...(field === 'treatments' ? { act: open } : {}),
        ...(field === 'hazardous' || field === 'ships' ? { flag: true } : {}),
        ...(field === 'class'
          ? {
              choices: (product: Product) => [
                ['', product.inherited ? 'as its product' : 'no class'] as const,
                ...setup.classes.map(({ name }) => [name, name] as const),
              ],
            }
          : {}),
      }
    }),
    {
      id: 'bench',
      head: <span className="sr-only">Bench</span>,
      width: 30,
      text: () => '',
      label: ({ name }) => `Bench: add ${name}`,
      act: ({ sku }) => add(sku),
      show: (product) => (
        <Button
          look="quiet"
          tabIndex={-1}
          className="min-w-7 px-0"
          aria-label={`Bench: add ${product.name}`}
          data-tip="Put it on the bench"
          onClick={() => add(product.sku)}
        >
          <Plus size={13} aria-hidden />
        </Button>
      ),
    },
  ]
  const faultAt = useCallback(
    (product: Product, _: number, column: string) => {
      const fault = faults.get(keyOf(product.id, column))
      return fault && { text: fault.text, message: fault.detail }
    },
    [faults],
  )
  const { at, total, seen } = useMemo(
    () => ({
      at: rows.at,
      total: rows.total ?? 0,
      seen: (from: number, to: number) =>
        setView((old) => (old[0] === from && old[1] === to ? old : [from, to])),
    }),
    [rows.at, rows.total],
  )

  if (rows.error) return <FieldError>{rows.error.message}</FieldError>
  return (
    <>
      <Unstored
        faults={[...faults.values()].map(({ product, field }) => ({
          key: keyOf(product.id, field),
          name: `${COLUMNS.find((column) => column.field === field)?.label} of ${product.name}`,
        }))}
        go={(key) => {
          const fault = faults.get(key)
          for (let index = view[0]; fault && index <= view[1]; index += 1)
            if (at(index)?.id === fault.product.id) return goTo.current?.(index, fault.field)
        }}
        forget={() => forget([...faults.keys()])}
      />
      <Sheet
        label="Catalogue"
        columns={columns}
        rows={{
          count: total,
          at,
          idOf: ({ id }) => id,
          nameOf: ({ sku }) => sku,
          fetch: rows.fetchRows,
          seen,
        }}
        put={put}
        faultAt={faultAt}
        note={(product, _, column) => {
          const fault = faults.get(keyOf(product.id, column))
          const of = COLUMNS.find(({ field }) => field === column)
          return (
            fault &&
            of && (
              <CellNote
                fault={fault}
                now={shownIn(of, product, setup).text}
                store={(text, sure) => store([{ product, field: fault.field, text }], sure)}
                forget={() => forget([keyOf(product.id, fault.field)])}
              />
            )
          )
        }}
        chosen={chosen}
        opened={({ id }) => id === opened}
        more={(event, product) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) open(product)
          else if (event.key === ' ' && event.shiftKey) toggle(product.id)
          else return
          event.preventDefault()
        }}
        goTo={goTo}
        rowHead="name"
        className="min-h-40 flex-1 border-y border-edge pb-20"
      />
    </>
  )
}

/** A head that sorts: up, down, and by the third press back to the catalogue's own order. */
function headOf(
  { field, label, sort }: Column,
  asked: Asked,
  ask: (changes: Partial<Asked>) => void,
  lengthUnit: string,
): Pick<SheetColumn<Product>, 'head' | 'title' | 'sorted'> {
  const sides: Partial<Record<string, string>> = { length: 'Length', width: 'Width', height: 'Height' }
  const side = sides[field]
  if (!sort)
    return side
      ? {
          title: `${side}, ${lengthUnit}`,
          head: (
            <>
              {label}
              <span className="sr-only">, {lengthUnit}</span>
            </>
          ),
        }
      : { head: label }
  const sorted = asked.sort === sort
  const next: Partial<Asked> =
    sorted && asked.descending ? { sort: '', descending: false } : { sort, descending: sorted }
  const Arrow = asked.descending ? ArrowDown : ArrowUp
  return {
    ...(sorted ? { sorted: asked.descending ? 'descending' : 'ascending' } : {}),
    head: (
      <Button
        look="bare"
        className={`inline-flex items-center gap-0.5 hover:underline ${sorted ? 'text-ink' : ''}`}
        onClick={() => ask(next)}
      >
        {label}
        {sorted && <Arrow size={12} aria-hidden />}
      </Button>
    ),
  }
}

/** What a cell shows: its own, or in italics what it has from its product. */
function Shown({
  column,
  product,
  text,
  own,
  open,
}: {
  column: Column
  product: Product
  /** What was typed there and could not be stored, or its own. */
  text: string
  own: string
  open: (product: Product) => void
}) {
  const { setup } = useWorkshop()
  const { field } = column
  const shown = shownIn(column, product, setup)
  const from = text === own ? shown.from : null
  const words = from ? shown.text : text
  const indented = field === 'sku' && product.parent
  const ordinary = (field === 'hazardous' && words === 'no') || (field === 'ships' && words === 'yes')
  return (
    <span
      className={`truncate ${column.numeric ? 'px-1' : 'pr-1 pl-2'} ${from ? 'text-soft italic' : ''} ${indented ? 'pl-3' : ''} ${ordinary ? 'text-soft' : ''} ${product.variants && field === 'name' ? 'font-medium' : ''}`}
      data-tip={from ? `from ${from}` : words}
    >
      {from && <span className="sr-only">from its product: </span>}
      {indented && <span aria-hidden>└ </span>}
      {field === 'name' ? (
        <Button
          look="opens"
          tabIndex={-1}
          className={product.variants ? '' : 'font-normal'}
          aria-label={`Open ${product.name}`}
          onClick={() => open(product)}
        >
          {words}
        </Button>
      ) : (
        words
      )}
    </span>
  )
}
