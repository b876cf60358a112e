import { useCallback, useMemo } from 'react'
import { useNavigate } from 'react-router'
import type { Plan, Rate, Setup } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { usePreview } from '../cart/result'
import { useEditedList } from '../edits/edited'
import { EditedSheet, type EditedRow } from '../edits/edited-sheet'
import { Button } from '../ui/button'
import { formatsOf, isZero, type Formats } from '../ui/format'
import type { SheetColumn } from '../ui/sheet/types'
import { cellText, keyOf, planWith, priceFrom, scheduled } from './class-cells'
import { byClass, OTHERS, priceOf, type Group } from './class-groups'
import { UnitBars } from './unit-bars'
import type { Figures } from './use-figures'

const HEAD = 44
const ROW = 76
const WIDTH = 104

/** A rate, and what it is called. */
export interface Row extends EditedRow<'rates'> {
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
  const formats = formatsOf(setup.store)
  const navigate = useNavigate()
  const { setPreview } = usePreview()
  const { of } = useEditedList('rates')
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
  return (
    <EditedSheet
      kind="rates"
      label="Prices by class"
      columns={columns}
      rows={rows}
      cellAt={(row, column) => {
        const group = groups.find(({ id }) => columnOf(id) === column)
        return (
          group && {
            key: keyOf(group.id),
            about: labelOf(group.name, row),
            text: ({ plan }) => cellText(plan, group.id),
            write: (text, { plan }) => ({ plan: planWith(plan, group.id, text) }),
            read: ({ plan }) => priceOf(plan ?? {}, group.id),
          }
        )
      }}
      preview={(rate) => setPreview(rate && { rate: rate.id, plan: rate.plan ?? null })}
      rowHead="rate"
      headHeight={HEAD}
      rowHeight={ROW}
      className="max-h-[70vh] border-y border-edge"
    />
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
    act: ({ stored }) => open(stored),
    show: ({ doc: rate, zone, method }) => (
      <span className="flex min-w-0 flex-col self-start px-2 pt-1.5 leading-tight">
        <span className="truncate font-cond font-semibold" data-tip={zone}>
          {zone}
        </span>
        <Button
          look="bare"
          tabIndex={-1}
          className="min-h-6 truncate text-left underline underline-offset-2"
          data-tip={method}
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
    text: ({ doc: rate }) => cellText(rate.plan, id),
    label: (row) => `Price of ${labelOf(name, row)}`,
    closed: ({ doc: rate }) => {
      if (rate.plan?.group !== 'class') return 'This rate prices the whole cart at once.'
      return scheduled(priceOf(rate.plan, id))
        ? 'Its price is in steps or a grid. Open the rate to change it.'
        : null
    },
    show: ({ doc: rate }, text) => {
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
      if (canSplit(row.doc)) split(row)
    },
    show: (row) =>
      canSplit(row.doc) && (
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
