import { useCallback, useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { call, type Product, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { counted } from '../ui/format'
import type { FieldName } from './columns'

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

export const keyOf = (id: string, field: string) => `${id} ${field}`

const SIDES: FieldName[] = ['length', 'width', 'height']

/** A size is known with all three sides: what was typed of the others goes along, until the third makes it whole. */
function withOtherSides(edits: CellEdit[], faults: ReadonlyMap<string, Fault>): CellEdit[] {
  const others = [...faults.values()].filter(
    (fault) =>
      SIDES.includes(fault.field) &&
      edits.some(({ product, field }) => product.id === fault.product.id && SIDES.includes(field)) &&
      !edits.some(({ product, field }) => product.id === fault.product.id && field === fault.field),
  )
  return [...edits, ...others.map(({ product, field, text }) => ({ product, field, text }))]
}

/** Stores cells, one or many at a time, in the order in which they were typed; what can't be stored stays. */
export function useCells(take: (rows: Product[]) => void) {
  const { edit } = useWorkshop()
  const [faults, setFaults] = useState<ReadonlyMap<string, Fault>>(new Map())
  const versions = useRef(new Map<string, number>())
  const kept = useRef(faults)
  useEffect(() => {
    kept.current = faults
  }, [faults])
  const queue = useRef<Promise<unknown>>(Promise.resolve())

  const forget = useCallback((keys: string[]) => {
    setFaults((old) => new Map([...old].filter(([key]) => !keys.includes(key))))
  }, [])

  const send = useCallback(
    async (edits: CellEdit[], sure: boolean) => {
      const rows = new Map<string, { id: string; lock_version: number; cells: Record<string, string> }>()
      for (const { product, field, text } of edits) {
        const version = Math.max(product.lock_version, versions.current.get(product.id) ?? 0)
        const row = rows.get(product.id) ?? { id: product.id, lock_version: version, cells: {} }
        row.cells[field] = text
        rows.set(product.id, row)
      }
      const told = new Map<string, Fault>()
      try {
        const done = await edit(() =>
          call<Schemas['GoodsCellsStored']>('POST', '/api/products/cells', {
            rows: [...rows.values()],
            sure,
          }),
        )
        for (const product of done.products) versions.current.set(product.id, product.lock_version)
        take(done.products)
        for (const fault of done.faults) {
          const typed = edits.find(({ product, field }) => product.id === fault.id && field === fault.field)
          if (typed) told.set(keyOf(fault.id, fault.field), { ...typed, ...fault, field: typed.field })
        }
        if (edits.length > 3)
          toast(`${counted(done.stored, 'cell')} stored${told.size ? `, ${told.size} to be corrected` : ''}`)
      } catch (error) {
        for (const typed of edits)
          told.set(keyOf(typed.product.id, typed.field), {
            ...typed,
            code: 'failed',
            detail: (error as Error).message,
          })
      }
      const keys = edits.map(({ product, field }) => keyOf(product.id, field))
      setFaults((old) => new Map([...[...old].filter(([key]) => !keys.includes(key)), ...told]))
    },
    [edit, take],
  )

  const store = useCallback(
    (edits: CellEdit[], sure = false) => {
      queue.current = queue.current.then(() => send(withOtherSides(edits, kept.current), sure))
      return queue.current
    },
    [send],
  )
  return { faults, store, forget }
}
