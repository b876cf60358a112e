import type { ReactNode } from 'react'
import type { ChoiceOf } from '../select'

/** A column of a sheet. Every cell holds text: what is typed into it, copied out of it and pasted over it. */
export interface SheetColumn<Row> {
  id: string
  head: ReactNode
  /** More about its head, when it is pointed at. */
  title?: string
  sorted?: 'ascending' | 'descending'
  /** In pixels, at the page's own size of text. */
  width: number
  numeric?: boolean
  /** What the cell itself holds. */
  text: (row: Row) => string
  /** What it shows, where that is more than its text: what it has from elsewhere, a mark, a button. */
  show?: (row: Row, text: string, index: number) => ReactNode
  /** What is copied, where that is not its text. */
  copied?: (row: Row) => string
  /** What the field is called while one types into it. */
  label: (row: Row, index: number) => string
  placeholder?: (row: Row, index: number) => string
  /** Why it cannot be written; null where it can. */
  closed?: (row: Row) => string | null
  /** Yes or no: changed by Enter, Space or a click, without a field. */
  flag?: boolean
  /** What can be chosen in it, instead of typing. */
  choices?: (row: Row) => readonly ChoiceOf<string>[]
  /** What Enter, Space and a click do there, where nothing is written. */
  act?: (row: Row, index: number) => void
}

/** Something to be written into a cell. A row that isn't there yet has only its place. */
export interface SheetCell<Row> {
  index: number
  row: Row | undefined
  column: string
  text: string
}

/** What was typed and can't be taken, and why. */
export interface SheetFault {
  text?: string
  message: string
}

/** The rows of a sheet, all of them here or fetched as they come into view. */
export interface SheetRows<Row> {
  count: number
  at: (index: number) => Row | undefined
  idOf: (row: Row, index: number) => string
  /** Whether a row is known by its place only, as the step of a schedule is. */
  byPlace?: boolean
  /** What a row is called in the page, e.g. by its SKU; its id where this is left out. */
  nameOf?: (row: Row) => string
  /** Rows that need not be in view; as many as there are. */
  fetch?: (start: number, length: number) => Promise<Row[]>
  /** Called with what comes into view. */
  seen?: (from: number, to: number) => void
}

export interface Place {
  row: number
  column: number
}

/** A rectangle of cells, both ends within. */
export interface Range {
  top: number
  bottom: number
  left: number
  right: number
}

export const rangeOf = (one: Place, other: Place): Range => ({
  top: Math.min(one.row, other.row),
  bottom: Math.max(one.row, other.row),
  left: Math.min(one.column, other.column),
  right: Math.max(one.column, other.column),
})

/** What was copied, as rows of cells: figures without currency signs and thousands separators. */
export function tableOf(text: string): string[][] {
  return text
    .replace(/\r/g, '')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t').map(tidyFigure))
}

export function tidyFigure(cell: string): string {
  const text = cell.trim().replace(/^[£$€¥]\s*(?=[\d.-])/, '')
  return /^\d{1,3}(,\d{3})+(\.\d+)?$/.test(text) ? text.replaceAll(',', '') : text
}
