import { thingOf as asThing } from '../edits/edits'
import { useCallback, useMemo, useSyncExternalStore } from 'react'
import { ApiProblem, type Product, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import type { Batch, Batched, Doc, Edit } from '../edits/edits'
import { counted } from '../ui/locale'
import { COLUMNS, shownIn, type FieldName } from './columns'

export interface CellEdit {
  product: Product
  field: FieldName
  text: string
}

/** A cell as it was typed. sure: a doubtful value is meant. */
interface TypedCell extends CellEdit {
  sure: boolean
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
const placeOf = (field: string) => `cell ${field}`
const SIDES: FieldName[] = ['length', 'width', 'height']
const isCell = ({ key }: Edit) => key.startsWith('cell ')
const cellOf = ({ typed }: { typed: unknown }) => typed as TypedCell
/** More cells than this at once get a notice. */
const MANY = 3

/** Why a cell was refused, as a problem at its field; with the current product where somebody else has changed it. */
function problemOf({ field, code, detail, suggestion }: Told, now: Product | undefined): ApiProblem {
  return new ApiProblem({
    type: 'about:blank',
    title: detail,
    status: code === 'stale' ? 409 : 422,
    detail,
    errors: [{ pointer: `/${field}`, code, detail, ...(suggestion ? { suggestion } : {}) }],
    ...(code === 'stale' && now ? { current: now } : {}),
  })
}

/** The rows of a request: each product once, with the version that its cells were typed over. */
function rowsOf(list: readonly Batched[]) {
  const rows = new Map<string, { id: string; lock_version: number; cells: Record<string, string> }>()
  for (const one of list) {
    const { product, field, text } = cellOf(one)
    const version = Math.max(product.lock_version, one.newest.lock_version ?? 0)
    const row = rows.get(product.id) ?? { id: product.id, lock_version: version, cells: {} }
    row.cells[field] = text
    rows.set(product.id, row)
  }
  return [...rows.values()]
}

/**
 * The cells of the catalogue, in the queues of their products. Cells that are changed together are sent together. A cell
 * shows what was typed until it is stored, and keeps it if it is refused, whatever is searched for or opened meanwhile.
 * @param take is called with every product as it is now
 */
export function useEditedCells(take: (rows: Product[]) => void) {
  const { edits, send, setup } = useWorkshop()
  const all = useSyncExternalStore(edits.subscribe, edits.all)

  const batch: Batch = useMemo(() => {
    const ask = async (list: readonly Batched[]) => {
      const { sure } = cellOf(list[0]!)
      const done = await send(
        (to) => to.POST('/api/products/cells', { body: { rows: rowsOf(list), sure } }),
        ({ stored, faults }) =>
          list.length > MANY
            ? `${counted(stored, 'cell')} stored${faults.length ? `, ${faults.length} to be corrected` : ''}`
            : '',
      )
      take(done.products)
      return list.map((one): Doc | Error => {
        const { product, field } = cellOf(one)
        const fault = done.faults.find((told) => told.id === product.id && told.field === field)
        const now = done.products.find(({ id }) => id === product.id)
        return fault ? problemOf(fault, now) : (now ?? product)
      })
    }
    // Which values are meant is said of a whole request.
    return async (list) => {
      const came = new Map<Batched, Doc | Error>()
      for (const sure of [false, true]) {
        const some = list.filter((one) => cellOf(one).sure === sure)
        if (some.length) (await ask(some)).forEach((one, at) => came.set(some[at]!, one))
      }
      return list.map((one) => came.get(one)!)
    }
  }, [send, take])

  const faults = useMemo(() => {
    const found = new Map<string, Fault>()
    for (const edit of all)
      if (edit.problem && isCell(edit)) {
        const { product, field, text } = cellOf(edit)
        const error = edit.problem instanceof ApiProblem ? edit.problem.problem.errors[0] : undefined
        found.set(keyOf(product.id, field), {
          product,
          field,
          text,
          code: error?.code ?? 'failed',
          detail: error?.detail ?? edit.problem.message,
          ...(error?.suggestion ? { suggestion: error.suggestion } : {}),
        })
      }
    return found
  }, [all])

  /** What was typed into cells that are on their way. */
  const typed = useMemo(
    () =>
      new Map(
        all
          .filter((edit) => isCell(edit) && edit.stage !== 'refused')
          .map((edit): [string, string] => {
            const { product, field, text } = cellOf(edit)
            return [keyOf(product.id, field), text]
          }),
      ),
    [all],
  )

  const store = useCallback(
    (cells: CellEdit[], sure = false) => {
      for (const cell of cells) {
        const column = COLUMNS.find(({ field }) => field === cell.field)!
        edits.change(
          {
            thing: thingOf(cell.product.id),
            key: placeOf(cell.field),
            about: `${column.label} of ${cell.product.name}`,
            change: () => ({}),
            read: (doc) => shownIn(column, asThing<Product>(doc), setup).text,
            typed: { ...cell, sure } satisfies TypedCell,
            whole: true,
            // A size is known with all three sides: what is refused of it goes along until the third makes it whole.
            ...(SIDES.includes(cell.field) ? { group: 'size' } : {}),
            batch,
          },
          cell.product,
        )
      }
      for (const { product, field } of cells) {
        const thing = thingOf(product.id)
        const key = placeOf(field)
        if (edits.of(thing).some((one) => one.key === key && one.current)) edits.again(thing, key)
        else edits.commit(thing, key)
      }
    },
    [edits, batch, setup],
  )

  const forget = useCallback(
    (keys: string[]) => {
      for (const edit of edits.all().filter(isCell)) {
        const { product, field } = cellOf(edit)
        if (keys.includes(keyOf(product.id, field))) edits.drop(edit.thing, edit.key)
      }
    },
    [edits],
  )

  return { faults, typed, store, forget }
}
