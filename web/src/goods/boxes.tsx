import { useMemo } from 'react'
import type { Schemas, Store } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useActs } from '../edits/acts'
import { EditedSheet, useEditedRows, type EditedCell, type EditedRow } from '../edits/edited-sheet'
import { useMade } from '../edits/made'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { Fold } from '../ui/fold'
import { formatsOf } from '../ui/format'
import { Input } from '../ui/input'
import { Movers, Remover } from '../ui/row-buttons'
import type { SheetColumn } from '../ui/sheet/types'
import { TableCsv } from '../forms/table-csv'
import { Empty } from '../ui/said'

type Box = Schemas['Box']
type Row = EditedRow<'boxes'>
type Side = 'length' | 'width' | 'height'
const SIDES: Side[] = ['length', 'width', 'height']

/** The boxes that the merchant packs into. */
export function Boxes() {
  const { setup } = useWorkshop()
  const acts = useActs()
  const rows = useEditedRows('boxes', setup.boxes)
  const cells = useMemo(() => cellsOf(setup.store), [setup.store])
  const columns = useMemo(
    () => [
      ...Object.entries(cells).map(([id, cell]) => columnOf(id, cell)),
      actionsColumn(acts, setup.boxes),
    ],
    [cells, acts, setup.boxes],
  )
  const used =
    setup.store.parcels?.kind === 'boxes' || setup.rates.some(({ plan }) => plan?.parcels?.kind === 'boxes')
  return (
    <div className="pb-8">
      <p className="mb-2 max-w-3xl text-soft">
        Goods are packed into these, from every side unless they must stand upright: for the least cost of
        boxes, then the least billable weight, then the fewest parcels. Goods in a carton of their own stay in
        it. {!used && 'Nothing is packed into boxes yet: say so with the shop’s parcels, or with a rate.'}
      </p>
      {rows.length > 0 ? (
        <EditedSheet
          kind="boxes"
          label="Boxes"
          columns={columns}
          rows={rows}
          cellAt={({ doc }, column) => {
            const cell = cells[column]
            return cell && { ...cell, about: `${cell.label} of ${doc.name}` }
          }}
          more={(event, { stored }) => {
            if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return
            acts.move('boxes', stored.id, stored.name, event.key === 'ArrowUp' ? -1 : 1)
            event.preventDefault()
          }}
          rowHead="name"
          headHeight={46}
          className="max-h-[60vh] border-y border-edge"
        />
      ) : (
        <Empty>There are no boxes yet.</Empty>
      )}
      <AddBox />
      <Fold title="Boxes as CSV" open={false}>
        <TableCsv
          what="box"
          path="/api/boxes"
          columns="box, active, length, width, height, padding, outer_length, outer_width, outer_height, tare, up_to, cost"
          about="a row for each; bare figures are in the shop’s units."
          effect="The boxes it names are replaced; others stay as they are."
          example="Crate,yes,60 cm,40 cm,40 cm,1 cm,,,,0.8 kg,25 kg,2.40"
        />
      </Fold>
    </div>
  )
}

/** "30 cm" as "30" where the unit is the shop's. */
const bare = (text: string | null | undefined, unit: string) =>
  text?.endsWith(` ${unit}`) ? text.slice(0, -unit.length - 1) : (text ?? '')
const withUnit = (text: string, unit: string) =>
  /^[\d.]+$/.test(text.trim()) ? `${text.trim()} ${unit}` : text.trim()

/** A box's inside or outside with another side. Sides of the outside that are not said are those of the inside. */
function withSide(box: Box, name: 'size' | 'outer', side: Side, text: string): Box['outer'] {
  const next = { ...(box[name] ?? { length: '', width: '', height: '' }), [side]: text }
  if (name === 'size') return next
  const said = Object.entries(next).filter(([, one]) => one)
  return said.length ? { ...box.size!, ...Object.fromEntries(said) } : null
}

/** A column of the sheet, and what its cells are edits of. */
interface BoxCell extends Omit<EditedCell<Box>, 'about'> {
  label: string
  head: string
  width: number
  placeholder?: string
  flag?: boolean
}

/** The columns, in the shop's units: a bare figure is in them. */
function cellsOf(store: Store): Record<string, BoxCell> {
  const { length_unit: length = 'cm', weight_unit: weight = 'kg' } = store
  const field = (
    key: 'padding' | 'tare' | 'up_to' | 'cost',
    label: string,
    head: string,
    unit: string,
    placeholder: string,
  ): BoxCell => ({
    key,
    label,
    head: unit ? `${head}, ${unit}` : head,
    width: 68,
    placeholder,
    text: (box) => bare(box[key], unit),
    write: (text) => ({ [key]: withUnit(text, unit) || null }),
  })
  const side = (name: 'size' | 'outer', side: Side): [string, BoxCell] => [
    `${name} ${side}`,
    {
      key: `${name} ${side}`,
      label: name === 'outer' ? `Outer ${side}` : side,
      head:
        name === 'outer' ? `Outside ${side}` : `${side.charAt(0).toUpperCase()}${side.slice(1)}, ${length}`,
      width: 58,
      placeholder: name === 'outer' ? '–' : '',
      group: name,
      text: (box) => bare(box[name]?.[side], length),
      write: (text, box) => ({ [name]: withSide(box, name, side, withUnit(text, length)) }),
    },
  ]
  return {
    name: {
      key: 'name',
      label: 'Name',
      head: 'Box',
      width: 130,
      text: ({ name }) => name,
      write: (name) => ({ name }),
    },
    ...Object.fromEntries(SIDES.map((one) => side('size', one))),
    padding: field('padding', 'Padding', 'Padding', length, 'none'),
    ...Object.fromEntries(SIDES.map((one) => side('outer', one))),
    tare: field('tare', 'Weight', 'Weighs', weight, 'nothing'),
    up_to: field('up_to', 'Most weight', 'Up to, in all', weight, 'any'),
    cost: field('cost', 'Cost', `Costs, ${formatsOf(store).symbol}`, '', 'nothing'),
    active: {
      key: 'active',
      label: 'In use',
      head: 'In use',
      width: 46,
      flag: true,
      text: ({ active }) => (active === false ? '' : 'yes'),
      write: (text) => ({ active: text === 'yes' }),
    },
  }
}

function columnOf(id: string, { label, head, width, placeholder, flag, text }: BoxCell): SheetColumn<Row> {
  return {
    id,
    head: <span className="block">{head}</span>,
    width,
    ...(id === 'name' || flag ? {} : { numeric: true }),
    text: ({ doc }) => text(doc),
    label: ({ doc }) => `${label} of ${doc.name}`,
    ...(placeholder ? { placeholder: () => placeholder } : {}),
    ...(flag
      ? {
          flag: true,
          show: ({ doc }: Row, said: string) => (
            <span className="px-2" aria-label={`${label} of ${doc.name}`}>
              {said ? 'yes' : <span className="text-soft">no</span>}
            </span>
          ),
        }
      : {}),
  }
}

/** Moving and removing: by pointer here, with Alt and the arrow keys anywhere in a row. */
function actionsColumn(acts: ReturnType<typeof useActs>, boxes: Box[]): SheetColumn<Row> {
  return {
    id: 'actions',
    head: <span className="sr-only">Actions</span>,
    width: 96,
    text: () => '',
    label: ({ doc }) => `Remove ${doc.name}`,
    act: ({ stored }) => acts.remove('boxes', stored, stored.name),
    show: ({ stored }) => (
      <span className="whitespace-nowrap">
        <Movers
          name={stored.name}
          at={boxes.indexOf(stored)}
          of={boxes.length}
          tabIndex={-1}
          move={(by) => acts.move('boxes', stored.id, stored.name, by)}
        />
        <Remover name={stored.name} tabIndex={-1} remove={() => acts.remove('boxes', stored, stored.name)} />
      </span>
    ),
  }
}

const BLANK = { name: '', length: '', width: '', height: '' }

function AddBox() {
  const { setup } = useWorkshop()
  const unit = setup.store.length_unit
  const made = useMade('boxes', 'New box', BLANK, ({ name, ...sides }) => ({
    name,
    size: Object.fromEntries(
      Object.entries(sides).map(([side, text]) => [side, withUnit(text, unit)]),
    ) as Box['size'],
  }))
  return (
    <form
      className="flex flex-wrap items-center gap-2 border-t border-edge py-3"
      onSubmit={(event) => {
        event.preventDefault()
        made.add()
      }}
    >
      {(['name', ...SIDES] as const).map((field) => (
        <Input
          key={field}
          className={`${field === 'name' ? 'w-48' : 'w-20'}`}
          aria-label={field === 'name' ? 'Name of a new box' : `Its ${field}, ${unit}`}
          placeholder={field === 'name' ? 'Name of a new box' : field}
          value={made.doc[field]}
          onChange={(event) => made.type({ [field]: event.target.value })}
        />
      ))}
      <Button type="submit">Add box</Button>
      {made.problem && <FieldError>{made.problem}</FieldError>}
    </form>
  )
}
