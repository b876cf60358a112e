import { useCallback, useMemo, useRef } from 'react'
import { useNavigate } from 'react-router'
import { messageOf, type Plan, type Rate, type Setup } from '../api/client'
import { useWorkshop } from '../api/setup'
import { usePreview } from '../bench/result'
import { useEditedList } from '../edits/edited'
import { Button } from '../ui/button'
import { Conflict } from '../ui/conflict'
import { FieldError } from '../ui/field'
import { formatsOf, isZero, type Formats } from '../ui/format'
import { Sheet, Unstored } from '../ui/sheet/sheet'
import type { SheetCell, SheetColumn } from '../ui/sheet/types'
import { cellText, keyOf, planWith, priceFrom, putCell, scheduled } from './class-cells'
import { byClass, OTHERS, priceOf, type Group } from './class-groups'
import { UnitBars } from './unit-bars'
import type { Figures } from './use-figures'

const HEAD = 44
const ROW = 76
const WIDTH = 104

/** A rate as it is stored and as it is edited, and what it is called. */
export interface Row {
  stored: Rate
  rate: Rate
  zone: string
  method: string
}

const columnOf = (group: Group) => group ?? 'others'

/** Whether a rate can be made to price by class; its price stays until a class gets one. */
const canSplit = ({ plan }: Rate) => Boolean(plan) && (!plan?.group || plan.group === 'cart')

function groupsOf(setup: Setup): { id: Group; name: string }[] {
  const classes = setup.classes.map(({ id, name }) => ({ id, name: name ?? '' }))
  return [...classes, { id: OTHERS, name: 'Everything else' }]
}

/** Rates by classes as a sheet: each cell a class's price by a rate, with its figures below. */
export function ClassSheet({ rows, figures, whole }: { rows: Row[]; figures: Figures; whole: boolean }) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store!)
  const navigate = useNavigate()
  const { setPreview } = usePreview()
  const { of } = useEditedList('rates')
  const goTo = useRef<((row: number, column: string) => void) | null>(null)
  const groups = useMemo(() => groupsOf(setup), [setup])
  const open = useCallback((rate: Rate) => void navigate(`/#rate=${rate.id}&field=plan`), [navigate])
  const split = useCallback(
    ({ stored, method }: Row) =>
      of(stored).put('plan group', `${method} prices by class`, ({ plan }) => ({
        plan: byClass(plan ?? {}),
      })),
    [of],
  )
  const columns = useMemo(
    () => [
      rateColumn(open),
      ...groups.map((group) => groupColumn(group, figures, formats)),
      ...(whole ? [splitColumn(split)] : []),
    ],
    [open, groups, figures, formats, whole, split],
  )
  const groupOf = (column: string) => groups.find(({ id }) => columnOf(id) === column)
  const editAt = (row: Row, column: string) => {
    const group = groupOf(column)
    return group && of(row.stored).at(keyOf(group.id))
  }
  const put = (cells: SheetCell<Row>[]) => {
    for (const { row, column, text } of cells) {
      const group = groupOf(column)
      if (row && group) putCell(of(row.stored), group.id, text, labelOf(group.name, row))
    }
  }
  const faults = rows.flatMap((row, index) =>
    of(row.stored)
      .edits.filter(({ problem }) => problem)
      .flatMap(({ key }) => {
        const group = groups.find(({ id }) => keyOf(id) === key)
        return group
          ? [{ key: `${index} ${columnOf(group.id)}`, name: labelOf(group.name, row), group, row }]
          : []
      }),
  )
  return (
    <>
      <Unstored
        faults={faults}
        go={(key) => {
          const [index, column] = key.split(' ')
          goTo.current?.(Number(index), column!)
        }}
        forget={() => faults.forEach(({ row, group }) => of(row.stored).drop(keyOf(group.id)))}
      />
      <Sheet
        label="Prices by class"
        columns={columns}
        rows={{
          count: rows.length,
          at: (index) => rows[index],
          idOf: ({ rate }) => rate.id,
        }}
        put={put}
        typing={({ row, column, text }, over) => {
          const group = groupOf(column)
          if (!row || !group) return
          setPreview(over ? null : { rate: row.rate.id, plan: planWith(row.rate.plan, group.id, text) })
        }}
        faultAt={(row, _, column) => {
          const edit = editAt(row, column)
          return edit?.problem ? { text: String(edit.typed), message: messageOf(edit.problem) } : undefined
        }}
        note={(row, _, column) => {
          const group = groupOf(column)
          const edit = editAt(row, column)
          if (!group || !edit?.problem) return null
          const edited = of(row.stored)
          return (
            <CellNote
              message={messageOf(edit.problem)}
              now={edit.current && cellText((edit.current as unknown as Rate).plan, group.id)}
              again={() => edited.again(edit.key)}
              forget={() => edited.drop(edit.key)}
            />
          )
        }}
        goTo={goTo}
        rowHead="rate"
        headHeight={HEAD}
        rowHeight={ROW}
        className="max-h-[70vh] border-y border-edge"
      />
    </>
  )
}

const labelOf = (group: string, { method, zone }: Row) => `${group}, ${method} in ${zone}`

function rateColumn(open: (rate: Rate) => void): SheetColumn<Row> {
  return {
    id: 'rate',
    head: 'Zone and method',
    width: 168,
    text: ({ method, zone }) => `${zone}, ${method}`,
    label: ({ method, zone }) => `Open ${method} in ${zone}`,
    act: ({ rate }) => open(rate),
    show: ({ rate, zone, method }) => (
      <span className="flex min-w-0 flex-col self-start px-2 pt-1.5 leading-tight">
        <span className="truncate font-cond font-semibold" title={zone}>
          {zone}
        </span>
        <Button
          look="bare"
          tabIndex={-1}
          className="min-h-6 truncate text-left underline underline-offset-2"
          title={method}
          onClick={() => open(rate)}
        >
          {method}
        </Button>
        {!rate.active && <span className="text-soft">off</span>}
      </span>
    ),
  }
}

function groupColumn(
  { id, name }: { id: Group; name: string },
  figures: Figures,
  formats: Formats,
): SheetColumn<Row> {
  const example = figures.example(id)
  return {
    id: columnOf(id),
    width: WIDTH,
    ...(example ? { title: example } : {}),
    head: (
      <>
        <b className="block truncate text-ink">{name}</b>
        <span className="block truncate text-xs">{example ?? '…'}</span>
      </>
    ),
    text: ({ rate }) => cellText(rate.plan, id),
    label: (row) => `Price of ${labelOf(name, row)}`,
    closed: ({ rate }) => {
      if (rate.plan?.group !== 'class') return 'This rate prices the whole cart at once.'
      return scheduled(priceOf(rate.plan, id))
        ? 'Its price is in steps or a grid. Open the rate to change it.'
        : null
    },
    show: ({ rate }, text) => {
      const prices = figures.of(rate.id, id)
      const carried = priceFrom(text, id, undefined)?.carried !== false
      return (
        <span className="flex min-w-0 flex-1 flex-col self-stretch px-1.5 pt-1">
          <PriceText plan={rate.plan ?? {}} group={id} text={text} formats={formats} />
          {carried && prices && (
            <UnitBars prices={prices} units={figures.units} dearest={figures.dearest} formats={formats} />
          )}
        </span>
      )
    },
  }
}

/** What a class pays by a rate, in a word or two. */
function PriceText({
  plan,
  group,
  text,
  formats,
}: {
  plan: Plan
  group: Group
  text: string
  formats: Formats
}) {
  if (plan.group !== 'class') return null
  const steps = scheduled(priceOf(plan, group))
  const [amount = '', ...more] = text.split(' ')
  const figure = /^\d/.test(amount)
    ? [isZero(amount) ? formats.price(amount) : formats.money(amount), ...more]
    : [text]
  if (steps || text) return <span className="truncate font-medium">{steps || figure.join(' ')}</span>
  return <span className="truncate text-soft">{group === OTHERS ? 'not said' : 'as the rest'}</span>
}

function splitColumn(split: (row: Row) => void): SheetColumn<Row> {
  return {
    id: 'split',
    head: <span className="sr-only">Make it price by class</span>,
    width: 120,
    text: () => '',
    label: ({ method, zone }) => `Price ${method} in ${zone} by class`,
    act: (row) => {
      if (canSplit(row.rate)) split(row)
    },
    show: (row) =>
      canSplit(row.rate) && (
        <Button
          look="quiet"
          tabIndex={-1}
          aria-label={`Price by class: ${row.method} in ${row.zone}`}
          onClick={() => split(row)}
        >
          Price by class
        </Button>
      ),
  }
}

/** Why a cell was not stored, right below it, and the ways out. */
function CellNote({
  message,
  now,
  again,
  forget,
}: {
  message: string
  now: string | null | undefined
  again: () => void
  forget: () => void
}) {
  return (
    <div className="absolute top-full left-0 z-20 w-72 border border-brick bg-white p-2 whitespace-normal">
      {now === null || now === undefined ? (
        <>
          <FieldError>{message}</FieldError>
          <Button className="mt-1.5" onClick={forget}>
            Leave it as it was
          </Button>
        </>
      ) : (
        <Conflict mine={again} theirs={forget}>
          Changed elsewhere meanwhile. There now: <b>{now || 'as the rest'}</b>.
        </Conflict>
      )}
    </div>
  )
}
