import { Copy } from 'lucide-react'
import { useEffect } from 'react'
import { useLocation } from 'react-router'
import type { Method } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useActs } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { AddByName } from '../forms/add-by-name'
import { Field } from '../forms/field'
import { counted } from '../ui/locale'
import { Switch } from '../ui/switch'
import { DeliveryTimes } from './delivery'
import { Movers, Remover } from '../ui/row-buttons'
import { Table } from '../ui/table'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Finder, useFinder } from '../ui/finder'
import { Sorted, useSortedRow } from '../ui/sorted'
import { Empty } from '../ui/said'

type TextField = 'name' | 'code' | 'private_name' | 'promise' | 'address' | 'hours'

const COLUMNS: { field: TextField; label: string; width: string; hint: string }[] = [
  { field: 'name', label: 'Name', width: 'w-44', hint: 'what the shopper reads' },
  { field: 'promise', label: 'Promise', width: 'w-36', hint: 'when it arrives' },
  { field: 'code', label: 'Code', width: 'w-24', hint: 'goes with the order' },
  { field: 'private_name', label: 'Private name', width: 'w-28', hint: 'only you see it' },
]

/** The methods that shoppers choose from, for all zones. */
export function Methods() {
  const { setup } = useWorkshop()
  const acts = useActs()
  const finder = useFinder()
  const { hash } = useLocation()
  useEffect(() => {
    const id = new URLSearchParams(hash.slice(1)).get('method')
    if (id) document.getElementById(`method-${id}-name`)?.focus()
  }, [hash])

  return (
    <div className="px-4 pt-3 pb-10">
      <h1 className="text-2xl">Methods</h1>
      <p className="mb-3 text-soft">
        What shoppers choose from, in every zone. Prices stand on the Board, zone by zone.
      </p>
      <Finder
        of={finder}
        label="Find a method"
        placeholder="find by name"
        className="mb-1.5 w-64"
        count={setup.methods.length}
      />
      {setup.methods.length > 0 && (
        <Sorted items={setup.methods} move={(id, name, by) => acts.move('methods', id, name, by)}>
          <Table>
            <thead>
              <tr className="text-left align-bottom font-cond text-soft">
                {COLUMNS.map(({ field, label, hint }) => (
                  <th key={field} className="py-1 pr-3 font-medium">
                    <span className="text-ink">{label}</span>: {hint}
                  </th>
                ))}
                <th className="py-1 font-medium">
                  <span className="text-ink">Reaches</span> the shopper
                </th>
                <th className="py-1 font-medium">Everywhere</th>
                <th>
                  <span className="sr-only">Actions</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {setup.methods
                .filter(({ name }) => finder.finds(name ?? ''))
                .map((method) => (
                  <Row key={method.id} method={method} index={setup.methods.indexOf(method)} />
                ))}
            </tbody>
          </Table>
        </Sorted>
      )}
      {setup.methods.length === 0 && <Empty>There are no methods yet.</Empty>}
      <AddByName kind="methods" what="method" inputId="new-method" />
      <DeliveryTimes />
    </div>
  )
}

function Row({ method, index }: { method: Method; index: number }) {
  const { setup } = useWorkshop()
  const acts = useActs()
  const edited = useEdited('methods', method)
  const { doc } = edited
  const { row, grip } = useSortedRow(method)
  const name = method.name ?? ''
  const rates = setup.rates.filter((rate) => rate.method === method.id).length
  return (
    <tr {...row} className="border-t border-hair bg-paper align-top">
      {COLUMNS.map(({ field, label, width }) => (
        <td key={field} className="py-1 pr-3">
          <Field
            of={edited}
            at={field}
            label={`${label} of ${name}`}
            hideLabel
            cell
            inputId={`method-${method.id}-${field}`}
            width={width}
            placeholder={field === 'private_name' || field === 'promise' ? 'none' : ''}
          />
        </td>
      ))}
      <td className="py-1 pr-3">
        <Select
          label={`How ${method.name} reaches the shopper`}
          value={doc.kind ?? 'delivery'}
          choices={[
            ['delivery', 'delivered'],
            ['collection', 'collected'],
          ]}
          choose={(value) => {
            const kind = value
            edited.put('kind', `How ${name} reaches the shopper`, () => ({ kind }))
          }}
        />
        {doc.kind === 'collection' &&
          (['address', 'hours'] as const).map((field) => (
            <Field
              key={field}
              of={edited}
              at={field}
              label={`${field === 'address' ? 'Collected at' : 'Hours'}: ${name}`}
              hideLabel
              cell
              width="w-44"
              placeholder={field === 'address' ? 'where' : 'when it is open'}
            />
          ))}
      </td>
      <td className="py-1">
        <Switch
          label={`${name} everywhere`}
          on={doc.active ?? true}
          change={(active) => edited.put('active', `${name} everywhere`, () => ({ active }))}
        />
      </td>
      <td className="py-1 text-right whitespace-nowrap text-soft">
        {rates ? `in ${counted(rates, 'zone')}` : 'in no zone yet'} {grip}
        <Movers
          name={name}
          at={index}
          of={setup.methods.length}
          move={(by) => acts.move('methods', method.id, name, by)}
        />
        <Button
          look="quiet"
          aria-label={`Duplicate ${name}`}
          data-tip="Duplicate it, without its rates"
          onClick={() => acts.duplicate('methods', method.id, name)}
        >
          <Copy size={14} aria-hidden />
        </Button>
        <Remover
          name={`${name}${rates ? ` with ${counted(rates, 'rate')}` : ''}`}
          remove={() =>
            acts.remove('methods', method, name, {
              said: `Removed ${name}${rates ? ` with ${counted(rates, 'rate')}` : ''}`,
            })
          }
        />
      </td>
    </tr>
  )
}
