import { docOf, thingOf } from './edits'
import { useMemo, useRef } from 'react'
import { messageOf } from '../api/client'
import type { DocOf, Kind } from '../api/kinds'
import { Button } from '../ui/button'
import { Conflict } from '../ui/conflict'
import { FieldError } from '../ui/field-error'
import { Sheet, Unstored, type SheetProps } from '../ui/sheet/sheet'
import { useEditedList } from './edited'
import type { Edit } from './edits'

/** A thing of one of the merchant's lists: as it is stored, and with every edit that is not stored yet. */
export interface EditedRow<K extends Kind> {
  stored: DocOf<K>
  doc: DocOf<K>
}

/** What a cell of a thing is: where its edits are kept, and what they make of the thing. */
export interface EditedCell<D> {
  key: string
  about: string
  text: (doc: D) => string
  write: (text: string, doc: D) => Partial<D>
  /** What stands at its place, to see whether somebody else changed it; what the edit touches where it is left out. */
  read?: (doc: D) => unknown
  /** What is refused together is sent together. */
  group?: string
}

/** The things of a list as rows; every edit that is on its way shows in its row. */
export function useEditedRows<K extends Kind>(kind: K, list: readonly DocOf<K>[]): EditedRow<K>[] {
  const { of, all } = useEditedList(kind)
  return useMemo(() => {
    const editing = new Set(all.map(({ thing }) => thing))
    return list.map((stored) => {
      const { id } = docOf(stored)
      return { stored, doc: editing.has(`/api/${kind}/${id}`) ? of(stored).doc : stored }
    })
  }, [kind, list, of, all])
}

interface Props<K extends Kind, Row extends EditedRow<K>> extends Omit<
  SheetProps<Row>,
  'rows' | 'put' | 'faultAt' | 'note' | 'goTo' | 'typing'
> {
  kind: K
  rows: readonly Row[]
  /** Nothing for a column that is not typed into. */
  cellAt: (row: Row, column: string) => EditedCell<DocOf<K>> | undefined
  /** Called with what a thing becomes while one types; with nothing once that ends. */
  preview?: (doc: DocOf<K> | null) => void
}

/** A sheet of a list's things. Each cell is an edit of its own: what can't be stored stays in it, with the ways out. */
export function EditedSheet<K extends Kind, Row extends EditedRow<K>>({
  kind,
  rows,
  cellAt,
  preview,
  columns,
  ...more
}: Props<K, Row>) {
  const { of } = useEditedList(kind)
  const goTo = useRef<((row: number, column: string) => void) | null>(null)
  const idOf = (row: Row) => String(docOf(row.stored)['id'])
  const faulty = (row: Row, column: string) => {
    const cell = cellAt(row, column)
    const edit = cell && of(row.stored).at(cell.key)
    return cell && edit?.problem ? { cell, edit, problem: edit.problem } : undefined
  }
  const faults = rows.flatMap((row, index) =>
    of(row.stored).edits.some(({ problem }) => problem)
      ? columns.flatMap(({ id }) => {
          const found = faulty(row, id)
          return found
            ? [{ key: `${index} ${id}`, name: found.cell.about, index, id, row, cell: found.cell }]
            : []
        })
      : [],
  )
  return (
    <>
      <Unstored
        faults={faults}
        go={(key) => {
          const fault = faults.find((one) => one.key === key)
          if (fault) goTo.current?.(fault.index, fault.id)
        }}
        forget={() => faults.forEach(({ row, cell }) => of(row.stored).drop(cell.key))}
      />
      <Sheet<Row>
        {...more}
        columns={columns}
        rows={{ count: rows.length, at: (index) => rows[index], idOf }}
        put={(cells) => {
          for (const { row, column, text } of cells) {
            const cell = row && cellAt(row, column)
            if (cell)
              of(row.stored).put(cell.key, cell.about, (doc) => cell.write(text, doc), {
                typed: text,
                ...(cell.read ? { read: cell.read } : {}),
                ...(cell.group ? { group: cell.group } : {}),
              })
          }
        }}
        {...(preview
          ? {
              typing: ({ row, column, text }, over) => {
                const cell = row && cellAt(row, column)
                if (cell) preview(over ? null : { ...row.doc, ...cell.write(text, row.doc) })
              },
            }
          : {})}
        faultAt={(row, _, column) => {
          const found = faulty(row, column)
          return found && { text: String(found.edit.typed), message: messageOf(found.problem) }
        }}
        note={(row, _, column) => {
          const found = faulty(row, column)
          if (!found) return null
          const edited = of(row.stored)
          const { key, text } = found.cell
          const { current } = found.edit
          return (
            <CellNote
              problem={found.problem}
              now={current && text(thingOf<DocOf<K>>(current))}
              again={() => edited.again(key)}
              forget={() => edited.drop(key)}
            />
          )
        }}
        goTo={goTo}
      />
    </>
  )
}

/** Why a cell was not stored, right below it, and the ways out. */
function CellNote({
  problem,
  now,
  again,
  forget,
}: {
  problem: NonNullable<Edit['problem']>
  /** What stands there now, where somebody else changed it. */
  now: string | null
  again: () => void
  forget: () => void
}) {
  return (
    <div className="absolute top-full left-0 z-20 w-72 border border-brick bg-white p-2 whitespace-normal">
      {now === null ? (
        <>
          <FieldError>{messageOf(problem)}</FieldError>
          <Button className="mt-1.5" onClick={forget}>
            Leave it as it was
          </Button>
        </>
      ) : (
        <Conflict mine={again} theirs={forget}>
          Changed elsewhere meanwhile. There now: <b>{now || 'nothing'}</b>.
        </Conflict>
      )}
    </div>
  )
}
