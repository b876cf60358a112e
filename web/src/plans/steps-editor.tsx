import { keysOf, parsed, without } from '../api/shapes'
import { X } from 'lucide-react'
import { useCallback, useEffect, useMemo, useRef } from 'react'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { counted } from '../ui/locale'
import { Select } from '../ui/select'
import { Sheet } from '../ui/sheet/sheet'
import type { SheetCell, SheetColumn } from '../ui/sheet/types'
import { Tick } from '../ui/tick'
import { type ScheduleProps } from './draft'
import {
  edgesOf,
  MEASURES,
  measureWords,
  unitOf,
  zeroOf,
  type Measure,
  type ScheduleOf,
  type Step,
} from '../words/measures'
import { FromToList } from './from-to'

type Field = 'at' | 'amount' | 'each' | 'increment' | 'percent'

const FIELDS: Record<Field, { name: string; width: number; head: (symbol: string, unit: string) => string }> =
  {
    at: { name: 'edge', width: 92, head: () => '' },
    amount: { name: 'amount', width: 76, head: (symbol) => symbol },
    each: { name: 'amount for each started', width: 76, head: (symbol) => `and ${symbol}` },
    increment: { name: 'started what', width: 96, head: (_, unit) => `for each started${unit}` },
    percent: { name: 'percent of value', width: 70, head: () => 'and % of value' },
  }
type Steps = ScheduleOf<'steps'>

const NAMES = keysOf(FIELDS)

/** What can be pasted below the last step: as many as a schedule may have. */
const MOST = 2000
const BLANK: Step = { at: '' }
const isBlank = ({ at, amount, none }: Step) => !at && !amount && !none

/** The steps with some cells written over; steps at the end that say nothing are none. */
function written(steps: readonly Step[], cells: readonly SheetCell<Step>[]): Step[] {
  const next = [...steps]
  for (const { index, column, text } of cells) {
    while (next.length <= index) next.push(BLANK)
    next[index] = { ...(next[index] ?? BLANK), [column]: column === 'none' ? text === 'yes' : text }
  }
  while (next.length > 1 && isBlank(next.at(-1) ?? BLANK)) next.pop()
  return next
}

/** A schedule as a sheet of steps, with a blank one at its end to go on with. */
export function StepsEditor({
  label,
  schedule,
  store,
  formats,
  change,
  commit,
  errorAt,
}: ScheduleProps<Steps>) {
  const { steps, measure } = schedule
  const unit = unitOf(measure, store)
  const upTo = edgesOf(schedule) === 'up_to'
  const { symbol } = formats
  // The sheet keeps the same functions while one types: only the row that changes is drawn.
  const latest = useRef({ change, commit, count: steps.length })
  useEffect(() => {
    latest.current = { change, commit, count: steps.length }
  })

  const replace = (next: Steps) => {
    change(() => next)
    commit(next)
  }
  const write = useCallback(
    (cells: SheetCell<Step>[]) =>
      latest.current.change((old) => ({ ...old, steps: written(old.steps ?? [], cells) })),
    [],
  )
  const put = useCallback(
    (cells: SheetCell<Step>[]) => {
      write(cells)
      latest.current.commit()
    },
    [write],
  )
  const remove = useCallback((row: number) => {
    if (latest.current.count < 2) return
    latest.current.change((old) => ({
      ...old,
      steps: (old.steps ?? []).filter((_, index) => index !== row),
    }))
    latest.current.commit()
  }, [])
  const rename = (next: Measure) =>
    replace({
      ...without(schedule, 'edges'),
      measure: next,
      steps: steps.map((step, index) => ({
        ...step,
        at: index === 0 ? zeroOf(next, store) : step.at.replace(/\s*[a-z]+[23]?$/i, ''),
        ...(step.increment ? { increment: step.increment.replace(/\s*[a-z]+[23]?$/i, '') } : {}),
      })),
    })

  const columns = useMemo((): SheetColumn<Step>[] => {
    const nth = (index: number) => (index < latest.current.count ? `step ${index + 1}` : 'new step')
    const ofUnit = unit && `, ${unit}`
    return [
      ...NAMES.map((field): SheetColumn<Step> => ({
        id: field,
        head: field === 'at' ? `${upTo ? 'Above' : 'From'}${ofUnit}` : FIELDS[field].head(symbol, ofUnit),
        width: FIELDS[field].width,
        text: (step) => step[field] ?? '',
        label: (_, index) => `${label}: ${FIELDS[field].name}, ${nth(index)}`,
        ...(field === 'at'
          ? { placeholder: (step: Step) => (isBlank(step) ? 'next edge' : '') }
          : { closed: (step: Step) => (step.none ? 'This step is not available.' : null) }),
      })),
      {
        id: 'none',
        head: 'Not available',
        width: 78,
        flag: true,
        text: ({ none }) => (none ? 'yes' : ''),
        label: (_, index) => `${label}: ${nth(index)} not available`,
        show: (step, _, index) =>
          step !== BLANK && (
            <Tick
              label={`${label}: step ${index + 1} not available`}
              className="mx-auto"
              tabIndex={-1}
              on={step.none ?? false}
              change={(none) => put([{ index, row: step, column: 'none', text: none ? 'yes' : 'no' }])}
            />
          ),
      },
      {
        id: 'remove',
        head: <span className="sr-only">Remove</span>,
        width: 34,
        text: () => '',
        label: () => '',
        act: (step, index) => step !== BLANK && remove(index),
        show: (step, _, index) =>
          step !== BLANK && (
            <Button
              look="quiet"
              tabIndex={-1}
              aria-label={`${label}: take step ${index + 1} out`}
              onClick={() => remove(index)}
            >
              <X size={13} aria-hidden />
            </Button>
          ),
      },
    ]
  }, [label, symbol, unit, upTo, put, remove])
  const rows = useMemo(
    () => ({
      count: steps.length + 1,
      at: (index: number) => (index === steps.length ? BLANK : steps[index]),
      idOf: (_: Step, index: number) => String(index + 1),
      byPlace: true,
    }),
    [steps],
  )
  const faults = steps.flatMap((_, row) =>
    NAMES.flatMap((field) => {
      const message = errorAt(`/steps/${row}/${field}`)
      return message ? [{ row, field, message }] : []
    }),
  )
  const faultAt = useFaults(faults)
  return (
    <div>
      <p className="mb-1 flex flex-wrap items-center gap-2">
        along
        <Select label={`${label}: along what`} value={measure} choices={MEASURES} choose={rename} />
        <Select
          label={`${label}: which step an edge belongs to`}
          value={edgesOf(schedule)}
          choices={[
            ['up_to', 'up to and including an edge'],
            ['from', 'from an edge on'],
          ]}
          choose={(value) => replace({ ...schedule, edges: value })}
        />
      </p>
      <Sheet
        label={`${label}: steps`}
        columns={columns}
        rows={rows}
        put={put}
        typing={(cell, over) => {
          write([cell])
          if (over) commit()
        }}
        faultAt={faultAt}
        grows={MOST}
        headHeight={38}
        className="max-h-80 w-fit max-w-full border-y border-edge"
      />
      {faults.slice(0, 3).map(({ row, field, message }) => (
        <FieldError key={`${row} ${field}`}>
          Step {row + 1}: {message}
        </FieldError>
      ))}
      {faults.length > 3 && <p className="text-brick">and {counted(faults.length - 3, 'more fault')}</p>}
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

interface Fault {
  row: number
  field: Field
  message: string
}

/** The faults by their cells: the same function for as long as they are the same. */
function useFaults(faults: Fault[]) {
  const told = JSON.stringify(faults)
  return useMemo(() => {
    const list = parsed<Fault[]>(told)
    const known = new Map(list.map(({ row, field, message }) => [`${row} ${field}`, { message }]))
    return (_: Step, index: number, column: string) => known.get(`${index} ${column}`)
  }, [told])
}
