import type { Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useActs } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { useMade } from '../edits/made'
import { Field, FieldError } from '../ui/field'
import { formatsOf } from '../ui/format'
import { Fold } from '../ui/fold'
import { Switch } from '../ui/switch'
import { TableCsv } from '../ui/table-csv'
import { Movers, Remover } from '../ui/row-buttons'
import { Table } from '../ui/table'
import { Button } from '../ui/button'
import { Input } from '../ui/input'
import { Sorted, useSortedRow } from '../ui/sorted'

type Box = Schemas['Box']
type Side = 'length' | 'width' | 'height'
const SIDES: Side[] = ['length', 'width', 'height']

/** The boxes that the merchant packs into. */
export function Boxes() {
  const { setup } = useWorkshop()
  const acts = useActs()
  const used =
    setup.store!.parcels?.kind === 'boxes' || setup.rates.some(({ plan }) => plan?.parcels?.kind === 'boxes')
  return (
    <div className="pb-8">
      <p className="mb-2 max-w-3xl text-soft">
        Goods are packed into these, from every side unless they must stand upright: for the least cost of
        boxes, then the least billable weight, then the fewest parcels. Goods in a carton of their own stay in
        it. {!used && 'Nothing is packed into boxes yet: say so with the shop’s parcels, or with a rate.'}
      </p>

      <Sorted items={setup.boxes} move={(id, name, by) => acts.move('boxes', id, name, by)}>
        <Table>
          <thead>
            <tr className="text-left align-bottom font-cond text-soft">
              <th className="py-1 font-medium">Box</th>
              <th className="font-medium">Inside, {setup.store!.length_unit}</th>
              <th className="font-medium">Padding</th>
              <th className="font-medium">Outside, if larger</th>
              <th className="font-medium">Weighs</th>
              <th className="font-medium">Up to, in all</th>
              <th className="font-medium">Costs</th>
              <th className="font-medium">In use</th>
              <th>
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {setup.boxes.map((box, at) => (
              <Row key={box.id} box={box} at={at} />
            ))}
          </tbody>
        </Table>
      </Sorted>

      {setup.boxes.length === 0 && <p className="border-t border-hair py-3">There are no boxes yet.</p>}
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

function Row({ box, at }: { box: Box; at: number }) {
  const { setup } = useWorkshop()
  const acts = useActs()
  const edited = useEdited('boxes', box)
  const { row, grip } = useSortedRow(box)
  const { symbol } = formatsOf(setup.store!)
  const length = setup.store!.length_unit!
  const weight = setup.store!.weight_unit!
  const field = (
    name: 'name' | 'padding' | 'tare' | 'up_to' | 'cost',
    label: string,
    width: string,
    unit = '',
    placeholder = '',
  ) => (
    <Field
      of={edited}
      at={name}
      label={`${label} of ${box.name}`}
      hideLabel
      cell
      width={width}
      placeholder={placeholder}
      value={(doc) => (unit ? bare(doc[name], unit) : (doc[name] ?? ''))}
      write={(text) => ({ [name]: (unit ? withUnit(text, unit) : text) || null })}
    />
  )
  const sides = (name: 'size' | 'outer') => (
    <span className="flex items-start">
      {SIDES.map((side) => (
        <Field
          key={side}
          of={edited}
          at={`${name} ${side}`}
          label={`${name === 'outer' ? 'Outer ' : ''}${side} of ${box.name}`}
          hideLabel
          cell
          width="w-12"
          placeholder={name === 'outer' ? '–' : ''}
          pointer={`/${name}/${side}`}
          group={name}
          value={(doc) => bare(doc[name]?.[side], length)}
          write={(text, doc) => ({ [name]: withSide(doc, name, side, withUnit(text, length)) })}
        />
      ))}
    </span>
  )
  return (
    <tr {...row} className="border-t border-hair bg-paper align-top">
      <td className="py-1">{field('name', 'Name', 'w-36')}</td>
      <td className="py-1">{sides('size')}</td>
      <td className="py-1">{field('padding', 'Padding', 'w-16', length, 'none')}</td>
      <td className="py-1">{sides('outer')}</td>
      <td className="py-1">{field('tare', 'Weight', 'w-20', weight, 'nothing')}</td>
      <td className="py-1">{field('up_to', 'Most weight', 'w-20', weight, 'any')}</td>
      <td className="py-1">{field('cost', `Cost, ${symbol},`, 'w-16', '', 'nothing')}</td>
      <td className="py-1">
        <Switch
          label={`${box.name} in use`}
          on={edited.doc.active ?? true}
          change={(active) => edited.put('active', `${box.name} in use`, () => ({ active }))}
        />
      </td>
      <td className="py-1 whitespace-nowrap">
        {grip}
        <Movers
          name={box.name}
          at={at}
          of={setup.boxes.length}
          move={(by) => acts.move('boxes', box.id!, box.name, by)}
        />
        <Remover name={box.name} remove={() => acts.remove('boxes', box, box.name)} />
      </td>
    </tr>
  )
}

const BLANK = { name: '', length: '', width: '', height: '' }

function AddBox() {
  const { setup } = useWorkshop()
  const unit = setup.store!.length_unit!
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
