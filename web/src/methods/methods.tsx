import { Copy, Trash2 } from 'lucide-react'
import { useEffect } from 'react'
import { useLocation } from 'react-router'
import { call, type Method } from '../api/client'
import { useWorkshop } from '../api/setup'
import { moved, useTold } from '../board/edits'
import { AddByName } from '../ui/add-by-name'
import { Field } from '../ui/field'
import { counted } from '../ui/format'
import { Switch } from '../ui/switch'
import { DeliveryTimes } from './delivery'
import { Movers } from '../ui/row-buttons'

type TextField = 'name' | 'code' | 'private_name' | 'promise' | 'address' | 'hours'

const COLUMNS: { field: TextField; label: string; width: string; hint: string }[] = [
  { field: 'name', label: 'Name', width: 'w-36', hint: 'what the shopper reads' },
  { field: 'promise', label: 'Promise', width: 'w-36', hint: 'when it arrives' },
  { field: 'code', label: 'Code', width: 'w-24', hint: 'goes with the order' },
  { field: 'private_name', label: 'Private name', width: 'w-36', hint: 'only you see it' },
]

/** The methods that shoppers choose from, for all zones. */
export function Methods() {
  const { setup } = useWorkshop()
  const { hash } = useLocation()
  useEffect(() => {
    const id = new URLSearchParams(hash.slice(1)).get('method')
    if (id) document.getElementById(`method-${id}-name`)?.focus()
  }, [hash])

  const told = useTold()

  return (
    <div className="px-4 pt-3 pb-10">
      <h1 className="text-2xl">Methods</h1>
      <p className="mb-3 text-soft">
        What shoppers choose from, in every zone. Prices stand on the Board, zone by zone.
      </p>
      {setup.methods.length > 0 && (
        <table className="w-full border-collapse">
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
            {setup.methods.map((method, index) => (
              <Row key={method.id} method={method} index={index} told={told} />
            ))}
          </tbody>
        </table>
      )}
      {setup.methods.length === 0 && <p className="border-t border-hair py-3">There are no methods yet.</p>}
      <AddMethod />
      <DeliveryTimes />
    </div>
  )
}

interface RowProps {
  method: Method
  index: number
  told: (what: string, request: () => Promise<unknown>) => Promise<void>
}

function Row({ method, index, told }: RowProps) {
  const { setup, edit } = useWorkshop()
  const rates = setup.rates.filter((rate) => rate.method === method.id).length
  const patch = (body: object, version = method.lock_version) =>
    call('PATCH', `/api/methods/${method.id}`, { ...body, lock_version: version })
  const move = (by: number) => {
    const order = moved(setup.methods, index, by)
    if (order) void told('', () => call('PUT', '/api/methods/order', { ids: order.map(({ id }) => id) }))
  }
  const remove = () =>
    void told(`Removed ${method.name}${rates ? ` with ${counted(rates, 'rate')}` : ''}`, () =>
      call('DELETE', `/api/methods/${method.id}?lock_version=${method.lock_version}`),
    )
  return (
    <tr className="border-t border-hair align-top">
      {COLUMNS.map(({ field, label, width }) => (
        <td key={field} className="py-1 pr-3">
          <Field
            label={`${label} of ${method.name}`}
            hideLabel
            cell
            inputId={`method-${method.id}-${field}`}
            width={width}
            placeholder={field === 'private_name' || field === 'promise' ? 'none' : ''}
            value={method[field] ?? ''}
            version={method.lock_version}
            pointer={`/${field}`}
            save={(typed, version) => edit(() => patch({ [field]: typed }, version))}
            read={(current) => (current as Method)[field] ?? ''}
          />
        </td>
      ))}
      <td className="py-1 pr-3">
        <select
          className="field"
          aria-label={`How ${method.name} reaches the shopper`}
          value={method.kind ?? 'delivery'}
          onChange={(event) => void told('', () => patch({ kind: event.target.value }))}
        >
          <option value="delivery">delivered</option>
          <option value="collection">collected</option>
        </select>
        {method.kind === 'collection' &&
          (['address', 'hours'] as const).map((field) => (
            <Field
              key={field}
              label={`${field === 'address' ? 'Collected at' : 'Hours'}: ${method.name}`}
              hideLabel
              cell
              width="w-44"
              placeholder={field === 'address' ? 'where' : 'when it is open'}
              value={method[field] ?? ''}
              version={method.lock_version}
              pointer={`/${field}`}
              save={(typed, version) => edit(() => patch({ [field]: typed }, version))}
              read={(current) => (current as Method)[field] ?? ''}
            />
          ))}
      </td>
      <td className="py-1">
        <Switch
          label={`${method.name} everywhere`}
          on={method.active ?? true}
          change={(active) => void told('', () => patch({ active }))}
        />
      </td>
      <td className="py-1 text-right whitespace-nowrap text-soft">
        {rates ? `in ${counted(rates, 'zone')}` : 'in no zone yet'}{' '}
        <Movers name={method.name} at={index} of={setup.methods.length} move={move} />
        <button
          type="button"
          className="quiet"
          aria-label={`Duplicate ${method.name}`}
          title="Duplicate it, without its rates"
          onClick={() =>
            void told(`Duplicated ${method.name}`, () => call('POST', `/api/methods/${method.id}/copy`, {}))
          }
        >
          <Copy size={14} aria-hidden />
        </button>
        <button
          type="button"
          className="quiet"
          aria-label={`Remove ${method.name}${rates ? ` with ${counted(rates, 'rate')}` : ''}`}
          onClick={remove}
        >
          <Trash2 size={14} aria-hidden />
        </button>
      </td>
    </tr>
  )
}

function AddMethod() {
  const { edit } = useWorkshop()
  const add = (name: string) => edit(() => call('POST', '/api/methods', { name }))
  return <AddByName what="method" inputId="new-method" add={add} />
}
