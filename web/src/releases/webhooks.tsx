import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answerOf, api, type Schemas } from '../api/client'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field'
import { counted } from '../ui/locale'
import { Badge, Empty } from '../ui/said'
import { Sure } from '../ui/sure'
import { Switch } from '../ui/switch'
import { Table } from '../ui/table'
import { Tick } from '../ui/tick'
import { toast } from '../ui/toast'
import { Typed } from '../ui/typed'
import { useDueWords } from './planned'
import { Once } from './once'
import { useDoing } from './use-releases'

type Webhook = Schemas['Webhook']
type Event = Schemas['WebhookEvent']
type Delivery = Schemas['WebhookDelivery']

const EVENTS: readonly (readonly [Event, string])[] = [
  ['release.published', 'a release goes live'],
  ['proof.failing', 'a proof begins to fail'],
  ['offer.used_up', 'an offer is used up'],
  ['nothing.offered', 'carts often get nothing'],
  ['carrier.down', 'a carrier does not answer'],
  ['backup.failed', 'a backup fails'],
]

const eventWords = (kind: string) => EVENTS.find(([event]) => event === kind)?.[1] ?? kind

/** Who is told of what happens, and how telling went. */
export function Webhooks() {
  const [made, setMade] = useState<Schemas['WebhookMade'] | null>(null)
  const [adding, setAdding] = useState(false)
  const webhooks = useQuery({
    queryKey: ['releases', 'webhooks'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/webhooks', { signal })),
    refetchInterval: ({ state }) =>
      state.data?.deliveries.some(({ state: one }) => one === 'waiting') ? 2000 : false,
  })
  return (
    <div className="max-w-5xl pb-8">
      <p className="mb-2 max-w-3xl text-soft">
        Gate Mile tells other programs when something happens: it posts to an address, signs what it sends as
        the Standard Webhooks specification says, and tries again for three days where nobody answers.
      </p>
      {made && (
        <Once
          what={
            <>
              Messages to <b>{made.made.url}</b> are signed with this secret.
            </>
          }
          text={made.secret}
          close={() => setMade(null)}
        />
      )}
      <Answer of={webhooks}>
        {({ webhooks: list, deliveries }) => (
          <>
            {list.length ? (
              <ul aria-label="Webhooks">
                {list.map((one) => (
                  <Row key={one.id} of={one} />
                ))}
              </ul>
            ) : (
              <Empty>Nobody is told of anything yet.</Empty>
            )}
            {adding ? (
              <Add
                added={(answer) => {
                  setAdding(false)
                  if (answer) setMade(answer)
                }}
              />
            ) : (
              <Button className="mt-2" onClick={() => setAdding(true)}>
                Add a webhook
              </Button>
            )}
            {deliveries.length > 0 && <Deliveries of={deliveries} webhooks={list} />}
          </>
        )}
      </Answer>
    </div>
  )
}

function Row({ of }: { of: Webhook }) {
  const doing = useDoing()
  const due = useDueWords()
  const path = { params: { path: { id: of.id } } }
  const change = (body: Schemas['WebhookPatch']) =>
    doing.run(() => answerOf(api.PATCH('/api/webhooks/{id}', { ...path, body })))
  const events = of.events ?? []
  return (
    <li className="flex flex-wrap items-start gap-x-4 gap-y-1 border-t border-hair py-2">
      <span className="min-w-64 flex-1 font-medium break-all">
        {of.url} {of.gone_at && <Badge>gone since {due(of.gone_at)}</Badge>}
        <fieldset className="flex flex-wrap gap-x-4 font-normal">
          <legend className="sr-only">What {of.url} is told of</legend>
          {EVENTS.map(([event, words]) => (
            <Tick
              key={event}
              on={events.includes(event)}
              disabled={events.length === 1 && events.includes(event)}
              change={(on) =>
                void change({ events: on ? [...events, event] : events.filter((one) => one !== event) })
              }
            >
              {words}
            </Tick>
          ))}
        </fieldset>
        {doing.error && <FieldError>{doing.error.message}</FieldError>}
      </span>
      <Switch
        label={`Tell ${of.url}`}
        on={Boolean(of.active) && !of.gone_at}
        change={(active) => void change({ active })}
      />
      <Button
        look="quiet"
        disabled={doing.busy}
        onClick={() =>
          void doing
            .run(() => answerOf(api.POST('/api/webhooks/{id}/test', path)))
            .then(() => toast('A test is on its way'))
        }
      >
        Send a test
      </Button>
      <Sure
        act="Remove"
        really="Remove it and what it was told"
        disabled={doing.busy}
        run={() => void doing.run(() => answerOf(api.DELETE('/api/webhooks/{id}', path)))}
      />
    </li>
  )
}

function Add({ added }: { added: (made: Schemas['WebhookMade'] | null) => void }) {
  const doing = useDoing()
  const [url, setUrl] = useState('')
  const [events, setEvents] = useState<readonly Event[]>(EVENTS.map(([event]) => event))
  const add = async () => {
    const answer = await doing.run(() =>
      answerOf(api.POST('/api/webhooks', { body: { url: url.trim(), events: [...events] } })),
    )
    if (answer) added(answer)
  }
  return (
    <section
      aria-label="Add a webhook"
      className="mt-2 flex flex-col items-start gap-2 border-t border-ink pt-2"
    >
      <Typed
        label="Address"
        width="w-96"
        placeholder="https://shop.example/hooks"
        value={url}
        error={doing.at('/url')}
        change={setUrl}
      />
      <fieldset className="flex flex-wrap gap-x-4">
        <legend className="font-cond text-soft">It is told when</legend>
        {EVENTS.map(([event, words]) => (
          <Tick
            key={event}
            on={events.includes(event)}
            change={(on) => setEvents(on ? [...events, event] : events.filter((one) => one !== event))}
          >
            {words}
          </Tick>
        ))}
      </fieldset>
      {doing.at('/events') && <FieldError>Choose at least one.</FieldError>}
      {doing.error && !doing.at('/url') && !doing.at('/events') && (
        <FieldError>{doing.error.message}</FieldError>
      )}
      <span className="flex gap-1.5">
        <Button className="border-ink font-semibold" disabled={doing.busy} onClick={() => void add()}>
          Add it
        </Button>
        <Button look="quiet" onClick={() => added(null)}>
          Cancel
        </Button>
      </span>
    </section>
  )
}

function Deliveries({ of, webhooks }: { of: Delivery[]; webhooks: Webhook[] }) {
  const due = useDueWords()
  const doing = useDoing()
  return (
    <section aria-label="What was told" className="mt-4">
      <h2 className="text-lg">What was told</h2>
      <Table aria-label="What was told" className="w-full">
        <thead>
          <tr className="border-b border-ink text-left font-cond text-soft">
            {['When', 'What', 'To', 'How it went'].map((name) => (
              <th key={name} className="py-1 pr-3 font-normal">
                {name}
              </th>
            ))}
            <th>
              <span className="sr-only">Once more</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {of.map((one) => (
            <tr key={one.id} className="border-t border-hair align-top">
              <td className="py-1 pr-3 whitespace-nowrap">{due(one.made_at)}</td>
              <td className="py-1 pr-3">{eventWords(one.kind)}</td>
              <td className="max-w-80 truncate py-1 pr-3">
                {webhooks.find(({ id }) => id === one.webhook)?.url}
              </td>
              <td className={`py-1 pr-3 ${one.state === 'failed' ? 'text-brick' : ''}`}>
                {outcomeWords(one, due)}
              </td>
              <td className="text-right">
                {one.state !== 'waiting' && (
                  <Button
                    look="quiet"
                    onClick={() =>
                      void doing.run(() =>
                        answerOf(
                          api.POST('/api/deliveries/{id}/resend', {
                            params: { path: { id: String(one.id) } },
                          }),
                        ),
                      )
                    }
                  >
                    Send again
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {doing.error && <FieldError>{doing.error.message}</FieldError>}
    </section>
  )
}

function outcomeWords(one: Delivery, due: (at: string) => string): string {
  const last = one.status ? `${one.trouble ?? 'answered'} with ${one.status}` : (one.trouble ?? '')
  if (one.state === 'delivered') return `delivered${one.attempts > 1 ? ` at the ${one.attempts}. try` : ''}`
  if (one.state === 'failed') return `given up after ${counted(one.attempts, 'try', 'tries')}: ${last}`
  return one.attempts ? `${last}; again ${due(one.due!)}` : 'on its way'
}
