import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { answerOf, api, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useEditedBeside } from '../edits/edited'
import { Answer } from '../ui/answer'
import { Field } from '../forms/field'
import { Select } from '../ui/select'
import { Trouble } from '../forms/trouble'
import { Keys } from './keys'

type Settings = Schemas['DoorSettings']

/** How checkouts ask: the keys that open the door, and what it promises. */
export function CheckoutDoor() {
  const settings = useQuery({
    queryKey: ['releases', 'door'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/door', { signal })),
  })
  return (
    <div className="max-w-5xl pb-8">
      <p className="mb-2 max-w-3xl text-soft">
        Your shop asks <code>{location.origin}/checkout/v1</code> what a cart gets, and tells which orders
        came of it. It answers from the release that is live.{' '}
        <Link to="/reference" className="underline">
          API reference
        </Link>
      </p>
      <Keys />
      <section aria-label="What a quote promises" className="mt-4 border-t border-ink pt-2">
        <h2 className="mb-1 text-lg">What a quote promises</h2>
        <Answer of={settings}>{(found) => <Promises settings={found} />}</Answer>
      </section>
    </div>
  )
}

function Promises({ settings }: { settings: Settings }) {
  const { setup } = useWorkshop()
  const edited = useEditedBeside<Settings>('/api/door', 'releases', settings, (to, fields, newest) =>
    to.PATCH('/api/door', { body: { ...fields, lock_version: newest.lock_version } }),
  )
  const whole = (field: 'holds_minutes' | 'evidence_days', label: string) => (
    <Field of={edited} at={field} label={label} width="w-24" write={(text) => ({ [field]: Number(text) })} />
  )
  const label = 'Tax in a price'
  return (
    <div className="flex flex-wrap items-start gap-x-6 gap-y-2">
      {whole('holds_minutes', 'Its prices hold for, in minutes')}
      {whole('evidence_days', 'Carts of orders are kept for, in days')}
      <div className="flex flex-col gap-1">
        <label className="flex flex-col gap-1">
          <span className="font-cond text-soft">{label}</span>
          <Select
            label={label}
            value={edited.doc.tax_class ?? ''}
            choices={[
              ['', 'is not told'],
              ...setup.tax_classes.map(({ id, name, rate }) => [id, `by ${name}, ${rate} %`] as const),
            ]}
            choose={(tax_class) => edited.put('tax_class', label, () => ({ tax_class: tax_class || null }))}
          />
        </label>
        <Trouble of={edited} at="tax_class" />
      </div>
    </div>
  )
}
