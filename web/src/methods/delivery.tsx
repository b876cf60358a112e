import { call, type Method } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useTold } from '../board/edits'
import { Field } from '../ui/field'
import { weekdayName } from '../ui/moment'

type Delivery = NonNullable<Method['delivery']>

const DAYS = [1, 2, 3, 4, 5, 6, 7]
const WEEK = [1, 2, 3, 4, 5]

/** When methods arrive, counted in business days from their cutoff, and at which hours they are offered. */
export function DeliveryTimes() {
  const { setup } = useWorkshop()
  if (!setup.methods.length) return null
  return (
    <section aria-label="Delivery times" className="mt-4">
      <h2 className="text-lg">Delivery times</h2>
      <p className="mb-1 max-w-3xl text-soft">
        Counted in business days from the day on which goods leave: the same day until just before the cutoff,
        else the next collection day. Public holidays are the shop’s.
      </p>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse">
          <thead>
            <tr className="text-left font-cond text-soft">
              <th className="py-1 font-medium">Method</th>
              <th className="font-medium">Days on the way</th>
              <th className="font-medium">Cutoff</th>
              <th className="font-medium">Goods leave on</th>
              <th className="font-medium">After the cutoff</th>
              <th className="font-medium">Offered from</th>
              <th className="font-medium">until</th>
            </tr>
          </thead>
          <tbody>
            {setup.methods.map((method) => (
              <Row key={method.id} method={method} />
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

/** "2-3" as least and most. */
function daysOf(text: string): Partial<Delivery> {
  const [least, most] = text.split(/\s*(?:-|–|to)\s*/).map((part) => Number(part))
  return text.trim() ? { least: least!, most: most ?? least! } : {}
}

function Row({ method }: { method: Method }) {
  const { edit } = useWorkshop()
  const told = useTold()
  const delivery = method.delivery ?? {}
  const patch = (next: Delivery, version = method.lock_version) =>
    call('PATCH', `/api/methods/${method.id}`, {
      delivery: Object.keys(next).length ? next : null,
      lock_version: version,
    })
  const shown = (from: Delivery) =>
    from.least === undefined ? '' : from.least === from.most ? `${from.least}` : `${from.least}–${from.most}`
  const time = (field: 'cutoff' | 'from' | 'until', label: string) => (
    <Field
      label={`${label} of ${method.name}`}
      hideLabel
      cell
      width="w-16"
      placeholder="–"
      value={delivery[field] ?? ''}
      version={method.lock_version}
      pointer={`/delivery/${field}`}
      save={(typed, version) => {
        const { [field]: _, ...rest } = delivery
        return edit(() => patch(typed.trim() ? { ...rest, [field]: typed.trim() } : rest, version))
      }}
      read={(current) => (current as Method).delivery?.[field] ?? ''}
    />
  )
  return (
    <tr className="border-t border-hair align-top">
      <td className="py-1.5">{method.name}</td>
      <td>
        <Field
          label={`Days on the way of ${method.name}`}
          hideLabel
          cell
          width="w-16"
          placeholder="not said"
          value={shown(delivery)}
          version={method.lock_version}
          pointer="/delivery"
          save={(typed, version) => {
            const { least: _, most: __, ...rest } = delivery
            return edit(() => patch({ ...rest, ...daysOf(typed) }, version))
          }}
          read={(current) => shown((current as Method).delivery ?? {})}
        />
      </td>
      <td>{time('cutoff', 'Cutoff')}</td>
      <td className="py-1">
        <span className="flex gap-1">
          {DAYS.map((day) => (
            <label key={day} className="flex flex-col items-center text-xs text-soft">
              {weekdayName(day).slice(0, 2)}
              <input
                type="checkbox"
                aria-label={`${method.name} leaves on ${weekdayName(day)}`}
                className="m-1.5"
                checked={(delivery.collection_days ?? WEEK).includes(day)}
                onChange={(event) => {
                  const days = delivery.collection_days ?? WEEK
                  const next = event.target.checked
                    ? [...days, day].sort()
                    : days.filter((one) => one !== day)
                  void told('', () => patch({ ...delivery, collection_days: next }))
                }}
              />
            </label>
          ))}
        </span>
      </td>
      <td className="py-1.5">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            aria-label={`Hide ${method.name} after the cutoff`}
            checked={delivery.hide ?? false}
            disabled={!delivery.cutoff}
            onChange={(event) => {
              const { hide: _, ...rest } = delivery
              void told('', () => patch(event.target.checked ? { ...rest, hide: true } : rest))
            }}
          />
          hidden
        </label>
      </td>
      <td>{time('from', 'Offered from')}</td>
      <td>{time('until', 'Offered until')}</td>
    </tr>
  )
}
