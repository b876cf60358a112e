import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answerOf, api, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { Answer } from '../ui/answer'
import { FieldError } from '../ui/field'
import { Select } from '../ui/select'
import { Typed } from '../ui/typed'
import { Keys } from './keys'
import { useDoing } from './use-releases'

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
  const queries = useQueryClient()
  const doing = useDoing()
  const [holds, setHolds] = useState(String(settings.holds_minutes))
  const [days, setDays] = useState(String(settings.evidence_days))
  const [wrong, setWrong] = useState<Record<string, string>>({})
  const store = async (changes: Partial<Settings>) => {
    const stored = await doing.run(() =>
      answerOf(api.PATCH('/api/door', { body: { ...changes, lock_version: settings.lock_version } })),
    )
    if (stored) queries.setQueryData(['releases', 'door'], stored)
  }
  const whole = (field: 'holds_minutes' | 'evidence_days', text: string, most: number) => {
    const value = Number(text)
    const fits = /^\d+$/.test(text.trim()) && value >= 1 && value <= most
    setWrong({ ...wrong, [field]: fits ? '' : `Write a whole number from 1 to ${most}.` })
    if (fits && value !== settings[field]) void store({ [field]: value })
  }
  return (
    <div className="flex flex-wrap items-start gap-x-6 gap-y-2">
      <Typed
        label="Its prices hold for, in minutes"
        value={holds}
        error={wrong.holds_minutes || doing.at('/holds_minutes')}
        change={setHolds}
        commit={() => whole('holds_minutes', holds, 1440)}
      />
      <Typed
        label="Carts of orders are kept for, in days"
        value={days}
        error={wrong.evidence_days || doing.at('/evidence_days')}
        change={setDays}
        commit={() => whole('evidence_days', days, 3660)}
      />
      <label className="flex flex-col gap-1">
        <span className="font-cond text-soft">Tax in a price</span>
        <Select
          label="Tax in a price"
          value={settings.tax_class ?? ''}
          choices={[
            ['', 'is not told'],
            ...setup.tax_classes.map(({ id, name, rate }) => [id!, `by ${name}, ${rate} %`] as const),
          ]}
          choose={(tax_class) => void store({ tax_class: tax_class || null })}
        />
      </label>
      {doing.error && <FieldError>{doing.error.message}</FieldError>}
    </div>
  )
}
