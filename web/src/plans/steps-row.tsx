import { X } from 'lucide-react'
import { memo, type ClipboardEvent } from 'react'
import type { Step } from './draft'

export const COLUMNS = ['at', 'amount', 'each', 'increment', 'percent'] as const
type Column = (typeof COLUMNS)[number]

interface Props {
  label: string
  measure: (element: Element | null) => void
  row: number
  step: Step | null
  last: boolean
  only: boolean
  set: (row: number, fields: Partial<Step>) => void
  remove: (row: number) => void
  paste: (row: number, column: number, event: ClipboardEvent) => void
  error: string | undefined
  wrong: Column | undefined
}

const NAMES: Record<Column, string> = {
  at: 'edge',
  amount: 'amount',
  each: 'amount for each started',
  increment: 'started what',
  percent: 'percent of value',
}
const WIDTHS: Record<Column, string> = {
  at: 'w-24',
  amount: 'w-20',
  each: 'w-20',
  increment: 'w-24',
  percent: 'w-16',
}

/** Typing in one row of a thousand must not draw the others again. */
export const StepsRow = memo(function StepsRow({
  label,
  measure,
  row,
  step,
  last,
  only,
  set,
  remove,
  paste,
  error,
  wrong,
}: Props) {
  return (
    <tr ref={measure} data-index={row} aria-rowindex={row + 1} className="align-top">
      {COLUMNS.map((column, index) => (
        <td key={column} className="pr-1.5 pb-1">
          <input
            className={`field ${WIDTHS[column]}`}
            data-place={`${row} ${column}`}
            aria-label={`${label}: ${NAMES[column]}, ${last ? 'new step' : `step ${row + 1}`}`}
            aria-invalid={wrong === column || undefined}
            placeholder={last && column === 'at' ? 'next edge' : ''}
            disabled={Boolean(step?.none) && column !== 'at'}
            value={step?.[column] ?? ''}
            autoComplete="off"
            onChange={(event) => set(row, { [column]: event.target.value })}
            onPaste={(event) => paste(row, index, event)}
          />
        </td>
      ))}
      <td className="pt-2 text-center">
        {!last && (
          <input
            type="checkbox"
            aria-label={`${label}: step ${row + 1} not available`}
            checked={Boolean(step?.none)}
            onChange={(event) => set(row, { none: event.target.checked })}
          />
        )}
      </td>
      <td className="pt-0.5">
        {!last && !only && (
          <button
            type="button"
            className="quiet px-1"
            aria-label={`${label}: take step ${row + 1} out`}
            onClick={() => remove(row)}
          >
            <X size={13} aria-hidden />
          </button>
        )}
      </td>
      {error && (
        <td className="pt-1.5 pl-2 font-medium text-brick" role="alert">
          <span aria-hidden>▲ </span>
          {error}
        </td>
      )}
    </tr>
  )
})
