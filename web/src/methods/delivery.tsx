import type { Method } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useEdited } from '../edits/edited'
import { Field } from '../forms/field'
import { weekdayName } from '../ui/moment'
import { Table } from '../ui/table'
import { Tick } from '../ui/tick'

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

      <Table>
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
      </Table>
    </section>
  )
}

/** "2-3" as least and most. */
function daysOf(text: string): Partial<Delivery> {
  const [least, most] = text.split(/\s*(?:-|–|to)\s*/).map((part) => Number(part))
  return text.trim() ? { least: least!, most: most ?? least! } : {}
}

const shown = ({ delivery }: Method) =>
  delivery?.least === undefined
    ? ''
    : delivery.least === delivery.most
      ? `${delivery.least}`
      : `${delivery.least}–${delivery.most}`

/** A method with something else about its delivery; without what is left empty, and with none where nothing is left. */
function delivering(
  method: Method,
  change: { [F in keyof Delivery]?: Delivery[F] | undefined },
): Partial<Method> {
  const next = Object.fromEntries(
    Object.entries({ ...method.delivery, ...change }).filter(([, value]) => value !== undefined),
  )
  return { delivery: Object.keys(next).length ? next : null }
}

function Row({ method }: { method: Method }) {
  const edited = useEdited('methods', method)
  const delivery = edited.doc.delivery ?? {}
  const time = (field: 'cutoff' | 'from' | 'until', label: string) => (
    <Field
      of={edited}
      at={`delivery ${field}`}
      label={`${label} of ${method.name}`}
      hideLabel
      cell
      width="w-16"
      placeholder="–"
      pointer={`/delivery/${field}`}
      value={(doc) => doc.delivery?.[field] ?? ''}
      write={(text, doc) => delivering(doc, { [field]: text.trim() || undefined })}
    />
  )
  return (
    <tr className="border-t border-hair align-top">
      <td className="py-1.5">{method.name}</td>
      <td>
        <Field
          of={edited}
          at="delivery days"
          label={`Days on the way of ${method.name}`}
          hideLabel
          cell
          width="w-16"
          placeholder="not said"
          pointer="/delivery"
          value={shown}
          write={(text, doc) => delivering(doc, { least: undefined, most: undefined, ...daysOf(text) })}
        />
      </td>
      <td>{time('cutoff', 'Cutoff')}</td>
      <td className="py-1">
        <span className="flex gap-1">
          {DAYS.map((day) => (
            <label key={day} className="flex flex-col items-center text-xs text-soft">
              {weekdayName(day).slice(0, 2)}
              <Tick
                label={`${method.name} leaves on ${weekdayName(day)}`}
                className="m-2"
                on={(delivery.collection_days ?? WEEK).includes(day)}
                change={(on) => {
                  const leaves = on
                  edited.put(
                    `delivery leaves ${day}`,
                    `${method.name} leaves on ${weekdayName(day)}`,
                    (doc) => {
                      const others = (doc.delivery?.collection_days ?? WEEK).filter((one) => one !== day)
                      return delivering(doc, { collection_days: leaves ? [...others, day].sort() : others })
                    },
                  )
                }}
              />
            </label>
          ))}
        </span>
      </td>
      <td className="py-1.5">
        <Tick
          label={`Hide ${method.name} after the cutoff`}
          on={delivery.hide ?? false}
          disabled={!delivery.cutoff}
          change={(on) => {
            const hide = on || undefined
            edited.put('delivery hide', `Hide ${method.name} after the cutoff`, (doc) =>
              delivering(doc, { hide }),
            )
          }}
        >
          hidden
        </Tick>
      </td>
      <td>{time('from', 'Offered from')}</td>
      <td>{time('until', 'Offered until')}</td>
    </tr>
  )
}
