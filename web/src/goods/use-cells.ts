import { useCallback, useMemo, useRef, useSyncExternalStore } from 'react'
import { ApiProblem, type Product, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import type { Doc, NewEdit } from '../edits/edits'
import { counted } from '../ui/locale'
import { toast } from '../ui/toast'
import { COLUMNS, type FieldName } from './columns'

export interface CellEdit {
  product: Product
  field: FieldName
  text: string
}

/** What was typed into a cell and could not be taken. */
export interface Fault extends CellEdit {
  code: string
  detail: string
  suggestion?: string
}

type Told = Schemas['GoodsCellsStored']['faults'][number]

export const keyOf = (id: string, field: string) => `${id} ${field}`
const thingOf = (id: string) => `/api/products/${id}`
const SIDES: FieldName[] = ['length', 'width', 'height']

/** Why a cell was refused, as a problem at its field. */
function problemOf({ field, code, detail, suggestion }: Told): ApiProblem {
  return new ApiProblem({
    type: 'about:blank',
    title: detail,
    status: 422,
    detail,
    errors: [{ pointer: `/${field}`, code, detail, ...(suggestion ? { suggestion } : {}) }],
  })
}

/**
 * Stores cells, one or many at a time, in the order in which they were typed. What can't be stored stays with its product
 * among the edits that are not stored yet, whatever is searched for, sorted or opened meanwhile.
 */
export function useCells(take: (rows: Product[]) => void) {
  const { edits, send } = useWorkshop()
  const all = useSyncExternalStore(edits.subscribe, edits.all)
  const versions = useRef(new Map<string, number>())
  const queue = useRef<Promise<unknown>>(Promise.resolve())

  const faults = useMemo(() => {
    const found = new Map<string, Fault>()
    for (const { key, problem, typed } of all)
      if (problem && key.startsWith('cell ')) {
        const cell = typed as CellEdit
        const error = problem instanceof ApiProblem ? problem.problem.errors[0] : undefined
        found.set(keyOf(cell.product.id, cell.field), {
          ...cell,
          code: error?.code ?? 'failed',
          detail: error?.detail ?? problem.message,
          ...(error?.suggestion ? { suggestion: error.suggestion } : {}),
        })
      }
    return found
  }, [all])

  /** Asks for cells to be stored, and tells those that were not. */
  const ask = useCallback(
    async (cells: CellEdit[], sure: boolean): Promise<Told[]> => {
      const rows = new Map<string, { id: string; lock_version: number; cells: Record<string, string> }>()
      for (const { product, field, text } of cells) {
        const version = Math.max(product.lock_version, versions.current.get(product.id) ?? 0)
        const row = rows.get(product.id) ?? { id: product.id, lock_version: version, cells: {} }
        row.cells[field] = text
        rows.set(product.id, row)
      }
      const done = await send<Schemas['GoodsCellsStored']>('POST', '/api/products/cells', {
        rows: [...rows.values()],
        sure,
      })
      for (const product of done.products) versions.current.set(product.id, product.lock_version)
      take(done.products)
      if (cells.length > 3)
        toast(
          `${counted(done.stored, 'cell')} stored${done.faults.length ? `, ${done.faults.length} to be corrected` : ''}`,
        )
      return done.faults
    },
    [send, take],
  )

  const editOf = useCallback(
    (cell: CellEdit): NewEdit => ({
      thing: thingOf(cell.product.id),
      key: `cell ${cell.field}`,
      about: `${COLUMNS.find(({ field }) => field === cell.field)?.label} of ${cell.product.name}`,
      change: () => ({}),
      read: () => null,
      typed: cell,
      whole: true,
      send: async () => {
        const [told] = await ask([cell], false)
        if (told) throw problemOf(told)
      },
    }),
    [ask],
  )

  const forget = useCallback(
    (keys: string[]) => {
      for (const { thing, key, typed } of edits.all())
        if (key.startsWith('cell ')) {
          const { product, field } = typed as CellEdit
          if (keys.includes(keyOf(product.id, field))) edits.drop(thing, key)
        }
    },
    [edits],
  )

  const storeNow = useCallback(
    async (cells: CellEdit[], sure: boolean) => {
      // A size is known with all three sides: what was typed of the others goes along, until the third makes it whole.
      const others = edits
        .all()
        .filter(({ key }) => key.startsWith('cell '))
        .map(({ typed }) => typed as CellEdit)
        .filter(
          (held) =>
            SIDES.includes(held.field) &&
            cells.some(({ product, field }) => product.id === held.product.id && SIDES.includes(field)) &&
            !cells.some(({ product, field }) => product.id === held.product.id && field === held.field),
        )
      const whole = [...cells, ...others]
      const hold = (cell: CellEdit, problem: Error) =>
        edits.hold(editOf(cell), cell.product as unknown as Doc, problem)
      try {
        const told = await ask(whole, sure)
        forget(whole.map(({ product, field }) => keyOf(product.id, field)))
        for (const fault of told) {
          const cell = whole.find(({ product, field }) => product.id === fault.id && field === fault.field)
          if (cell) hold(cell, problemOf(fault))
        }
      } catch (error) {
        for (const cell of whole) hold(cell, error as Error)
      }
    },
    [edits, ask, editOf, forget],
  )

  const store = useCallback(
    (cells: CellEdit[], sure = false) => {
      queue.current = queue.current.then(() => storeNow(cells, sure))
      return queue.current
    },
    [storeNow],
  )
  return { faults, store, forget }
}
