import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { answerOf, api, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useEditedBeside } from '../edits/edited'
import { useMaking } from '../edits/made'
import { useAct } from '../edits/use-act'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { counted } from '../ui/locale'
import { Badge, Empty } from '../ui/said'
import { Sure } from '../ui/sure'
import { Switch } from '../ui/switch'
import { Table } from '../ui/table'
import { Tick } from '../ui/tick'
import { toast } from '../ui/toast'
import { Trouble } from '../forms/trouble'
import { Typed } from '../ui/typed'
import { useDueWords } from './planned'
import { Once } from '../ui/once'

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
  const [closed, setClosed] = useState(false)
  const opener = useRef<HTMLButtonElement>(null)
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
          close={() => {
            setMade(null)
            opener.current?.focus()
          }}
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
              <Empty>No webhooks yet.</Empty>
            )}
            {adding ? (
              <Add
                added={(answer) => {
                  setAdding(false)
                  // The focus goes to the new secret, or back to the button.
                  setClosed(!answer)
                  if (answer) setMade(answer)
                }}
              />
            ) : (
              <Button ref={opener} autoFocus={closed} className="mt-2" onClick={() => setAdding(true)}>
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

const toggled = (events: readonly Event[] = [], event: Event, on: boolean) =>
  on ? [...events.filter((one) => one !== event), event] : events.filter((one) => one !== event)

function Row({ of }: { of: Webhook }) {
  const due = useDueWords()
  const path = { params: { path: { id: of.id } } }
  const thing = `/api/webhooks/${of.id}`
  const edited = useEditedBeside<Webhook>(thing, 'releases', of, (to, { events, active }, { edition }) =>
    to.PATCH('/api/webhooks/{id}', {
      ...path,
      body: { ...(events && { events }), ...(active !== undefined && { active }), edition },
    }),
  )
  const test = useAct(thing, 'test', `Send a test to ${of.url}`)
  const removal = useAct(thing, 'remove', `Remove ${of.url}`)
  const events = edited.doc.events ?? []
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
                edited.put(
                  'events',
                  `What ${of.url} is told of`,
                  (newest) => ({ events: toggled(newest.events, event, on) }),
                  { onTop: true },
                )
              }
            >
              {words}
            </Tick>
          ))}
        </fieldset>
        <Trouble of={edited} />
      </span>
      <Switch
        label={`Tell ${of.url}`}
        on={Boolean(edited.doc.active) && !of.gone_at}
        change={(active) => edited.put('active', `Tell ${of.url}`, () => ({ active }))}
      />
      <Button
        look="quiet"
        disabled={test.busy}
        onClick={() =>
          test.beside(
            (to) => to.POST('/api/webhooks/{id}/test', path),
            () => toast('A test is on its way'),
          )
        }
      >
        Send a test
      </Button>
      <Sure
        act="Remove"
        really="Remove it and its messages"
        disabled={removal.busy}
        run={() => removal.beside((to) => to.DELETE('/api/webhooks/{id}', path))}
      />
    </li>
  )
}

const BLANK = { url: '', events: EVENTS.map(([event]) => event) }

function Add({ added }: { added: (made: Schemas['WebhookMade'] | null) => void }) {
  const { sendBeside } = useWorkshop()
  const made = useMaking('/api/webhooks', 'Add a webhook', BLANK, {
    send: ({ url, events }) =>
      sendBeside((to) => to.POST('/api/webhooks', { body: { url: url.trim(), events } }), 'releases'),
    added,
  })
  const { url, events } = made.doc
  return (
    <section
      aria-label="Add a webhook"
      className="mt-2 flex flex-col items-start gap-2 border-t border-ink pt-2"
    >
      <Typed
        label="Address"
        width="w-96"
        autoFocus
        placeholder="https://shop.example/hooks"
        value={url}
        error={made.problemAt('/url')}
        change={(url) => made.type({ url })}
      />
      <fieldset className="flex flex-wrap gap-x-4">
        <legend className="font-cond text-soft">Events</legend>
        {EVENTS.map(([event, words]) => (
          <Tick
            key={event}
            on={events.includes(event)}
            change={(on) => made.type({ events: toggled(events, event, on) })}
          >
            {words}
          </Tick>
        ))}
      </fieldset>
      {made.problemAt('/events') && <FieldError>Choose at least one.</FieldError>}
      {made.problem && !made.problemAt('/url') && !made.problemAt('/events') && (
        <FieldError>{made.problem}</FieldError>
      )}
      <span className="flex gap-1.5">
        <Button className="border-ink font-semibold" disabled={made.busy} onClick={made.add}>
          Add it
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            made.drop()
            added(null)
          }}
        >
          Cancel
        </Button>
      </span>
    </section>
  )
}

function Deliveries({ of, webhooks }: { of: Delivery[]; webhooks: Webhook[] }) {
  const due = useDueWords()
  const resend = useAct('/api/deliveries', 'resend', 'Send a message again')
  return (
    <section aria-label="Messages sent" className="mt-4">
      <h2 className="text-lg">Messages sent</h2>
      <Table aria-label="Messages sent" className="w-full">
        <thead>
          <tr className="border-b border-ink text-left font-cond text-soft">
            {['When', 'What', 'To', 'Result'].map((name) => (
              <th key={name} className="py-1 pr-3 font-normal">
                {name}
              </th>
            ))}
            <th>
              <span className="sr-only">Send again</span>
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
                    disabled={resend.busy}
                    onClick={() =>
                      resend.beside((to) =>
                        to.POST('/api/deliveries/{id}/resend', { params: { path: { id: String(one.id) } } }),
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
      {resend.message && <FieldError>{resend.message}</FieldError>}
    </section>
  )
}

function outcomeWords(one: Delivery, due: (at: string) => string): string {
  const last = one.status ? `${one.trouble ?? 'answered'} with ${one.status}` : (one.trouble ?? '')
  if (one.state === 'delivered') return `delivered${one.attempts > 1 ? ` at the ${one.attempts}. try` : ''}`
  if (one.state === 'failed') return `given up after ${counted(one.attempts, 'try', 'tries')}: ${last}`
  return one.attempts ? `${last}; again ${due(one.due!)}` : 'on its way'
}
