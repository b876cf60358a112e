import { defaultRangeExtractor, useVirtualizer } from '@tanstack/react-virtual'
import { Fragment, useCallback, useRef, type ClipboardEvent, type KeyboardEvent } from 'react'
import {
  edgesOf,
  MEASURES,
  measureWords,
  unitOf,
  zeroOf,
  type Measure,
  type Schedule,
  type ScheduleProps,
  type Step,
} from './draft'
import { FromToList } from './from-to'
import { tableOf } from './paste'
import { COLUMNS, StepsRow } from './steps-row'

/** A schedule as a small grid that takes typing, Tab, Enter and the cells of a spreadsheet. */
export function StepsEditor({ label, schedule, store, formats, change, commit, errorAt }: ScheduleProps) {
  const steps = schedule.steps ?? []
  const measure = schedule.measure ?? 'weight'
  const unit = unitOf(measure, store)
  const upTo = edgesOf(schedule) === 'up_to'

  const set = useCallback(
    (row: number, fields: Partial<Step>) =>
      change((old) => {
        const list = [...(old.steps ?? [])]
        list[row] = { ...(list[row] ?? { at: '' }), ...fields }
        return { ...old, steps: list }
      }),
    [change],
  )
  const replace = (next: Schedule) => {
    change(() => next)
    commit(next)
  }
  const remove = useCallback(
    (row: number) =>
      change((old) => ({ ...old, steps: (old.steps ?? []).filter((_, index) => index !== row) })),
    [change],
  )
  const paste = useCallback(
    (row: number, column: number, event: ClipboardEvent) => {
      const lines = tableOf(event.clipboardData.getData('text'))
      if (!lines) return
      event.preventDefault()
      change((old) => {
        const list = [...(old.steps ?? [])]
        lines.forEach((cells, down) => {
          const step = { ...(list[row + down] ?? { at: '' }) }
          cells.forEach((cell, right) => {
            const field = COLUMNS[column + right]
            if (field) step[field] = cell
          })
          list[row + down] = step
        })
        return { ...old, steps: list }
      })
    },
    [change],
  )
  const scroller = useRef<HTMLDivElement>(null)
  const focused = useRef(0)
  const count = steps.length + 1
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
    initialRect: { width: 600, height: 320 },
    // The row with the focus stays, however far one scrolls; a short list is there as a whole.
    rangeExtractor: (range) => {
      if (count <= FEW) return Array.from({ length: count }, (_, row) => row)
      const found = defaultRangeExtractor(range)
      return focused.current < count && !found.includes(focused.current)
        ? [...found, focused.current].sort((one, other) => one - other)
        : found
    },
  })
  const items = virtual.getVirtualItems()
  const rows = items.map((item, at) => ({
    row: item.index,
    before: item.start - (items[at - 1]?.end ?? 0),
  }))
  const after = virtual.getTotalSize() - (items[items.length - 1]?.end ?? 0)
  const rename = (next: Measure) =>
    replace({
      ...schedule,
      measure: next,
      edges: undefined as never,
      steps: steps.map((step, index) => ({
        ...step,
        at: index === 0 ? zeroOf(next, store) : step.at.replace(/\s*[a-z]+[23]?$/i, ''),
        ...(step.increment ? { increment: step.increment.replace(/\s*[a-z]+[23]?$/i, '') } : {}),
      })),
    })
  const keys = (event: KeyboardEvent) => {
    const target = event.target as HTMLElement
    const place = /^(\d+) (\w+)$/.exec(target.dataset.place ?? '')
    if (!place) return
    const by = { Enter: 1, ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (by === undefined) return
    event.preventDefault()
    if (event.key === 'Enter') commit()
    event.currentTarget
      .querySelector<HTMLElement>(`[data-place="${Number(place[1]) + by} ${place[2]}"]`)
      ?.focus()
  }
  return (
    <div>
      <p className="mb-1 flex flex-wrap items-center gap-2">
        along
        <select
          className="field"
          aria-label={`${label}: along what`}
          value={measure}
          onChange={(event) => rename(event.target.value as Measure)}
        >
          {MEASURES.map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </select>
        <select
          className="field"
          aria-label={`${label}: which step an edge belongs to`}
          value={edgesOf(schedule)}
          onChange={(event) => replace({ ...schedule, edges: event.target.value as 'from' | 'up_to' })}
        >
          <option value="up_to">up to and including an edge</option>
          <option value="from">from an edge on</option>
        </select>
      </p>
      <div ref={scroller} className="max-h-80 overflow-y-auto">
        <table
          aria-rowcount={steps.length + 1}
          onKeyDown={keys}
          onFocus={(event) => {
            const place = /^(\d+) /.exec(event.target.dataset.place ?? '')
            if (place) focused.current = Number(place[1])
          }}
          onBlur={(event) => !event.currentTarget.contains(event.relatedTarget) && commit()}
        >
          <thead className="sticky top-0 bg-paper">
            <tr className="text-left align-bottom font-cond text-soft [&>th]:pr-3 [&>th]:leading-tight">
              <th className="font-medium">
                {upTo ? 'Above' : 'From'}
                {unit && `, ${unit}`}
              </th>
              <th className="font-medium">{formats.symbol}</th>
              <th className="font-medium">and {formats.symbol}</th>
              <th className="font-medium">for each started{unit && `, ${unit}`}</th>
              <th className="font-medium">and % of value</th>
              <th className="font-medium">Not available</th>
              <th>
                <span className="sr-only">Take out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ row, before }) => (
              <Fragment key={row}>
                {before > 0 && <tr aria-hidden style={{ height: before }} />}
                <StepsRow
                  label={label}
                  row={row}
                  step={steps[row] ?? null}
                  last={row === steps.length}
                  only={steps.length === 1}
                  set={set}
                  remove={remove}
                  paste={paste}
                  measure={virtual.measureElement}
                  error={COLUMNS.map((column) => errorAt(`/steps/${row}/${column}`)).find(Boolean)}
                  wrong={COLUMNS.find((column) => errorAt(`/steps/${row}/${column}`))}
                />
              </Fragment>
            ))}
            {after > 0 && <tr aria-hidden style={{ height: after }} />}
          </tbody>
        </table>
      </div>
      <p className="text-xs text-soft">
        {upTo
          ? `A ${measureWords(measure)} of exactly an edge belongs to the step below it.`
          : `A ${measureWords(measure)} of exactly an edge belongs to the step that begins there.`}{' '}
        The last step is open; tick “not available” where it ends.
      </p>
      <FromToList
        label={label}
        schedule={schedule}
        store={store}
        formats={formats}
        change={change}
        commit={commit}
        errorAt={errorAt}
      />
    </div>
  )
}

/** Pixels of a row, and up to how many all of them are drawn. */
const ROW = 36
const FEW = 60
