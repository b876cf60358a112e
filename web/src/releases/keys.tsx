import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answerOf, api, type Schemas } from '../api/client'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field'
import { count, counted } from '../ui/locale'
import { Radios } from '../ui/radios'
import { Badge, Empty } from '../ui/said'
import { Sure } from '../ui/sure'
import { Table } from '../ui/table'
import { Tick } from '../ui/tick'
import { Typed } from '../ui/typed'
import { Once } from './once'
import { useDueWords } from './planned'
import { useDoing } from './use-releases'

type Key = Schemas['CheckoutKey']
type Call = Schemas['CheckoutCall']

const CALLS: readonly (readonly [Call, string])[] = [
  ['quotes', 'quotes of carts'],
  ['orders', 'orders'],
  ['methods', 'methods'],
  ['served', 'countries served'],
  ['offers', 'offers'],
  ['state', 'being a quote server'],
]

/** What a shop asks for; the rest is for quote servers, which are told all that quoting needs. */
const SHOPS: readonly Call[] = ['quotes', 'orders', 'methods', 'served', 'offers']
/** Columns that a phone has no room for. */
const WIDE = ['Begins with', 'A minute']
const SERVERS: readonly Call[] = ['orders', 'state']

/** Hours for which a key that was rotated opens the door still. */
const OVERLAP = 24

/** The keys that open the checkout door. */
export function Keys() {
  const [shown, setShown] = useState<Schemas['CheckoutKeyMade'] | null>(null)
  const [making, setMaking] = useState(false)
  const keys = useQuery({
    queryKey: ['releases', 'keys'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/keys', { signal })),
  })
  return (
    <section aria-label="Keys">
      <h2 className="mb-1 text-lg">Keys</h2>
      {shown && (
        <Once
          what={
            <>
              The key <b>{shown.made.name}</b>.
            </>
          }
          text={shown.key}
          close={() => setShown(null)}
        />
      )}
      <Answer of={keys}>
        {({ keys: list }) =>
          list.length ? (
            <Table aria-label="Keys" className="w-full">
              <thead>
                <tr className="border-b border-ink text-left font-cond text-soft">
                  {['Name', 'Begins with', 'For', 'A minute', 'Last used'].map((name) => (
                    <th
                      key={name}
                      className={`py-1 pr-3 font-normal ${WIDE.includes(name) ? 'max-sm:hidden' : ''}`}
                    >
                      {name}
                    </th>
                  ))}
                  <th>
                    <span className="sr-only">What can be done with it</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {list.map((key) => (
                  <Row key={key.id} of={key} show={setShown} />
                ))}
              </tbody>
            </Table>
          ) : (
            <Empty>There is no key yet: nobody can ask.</Empty>
          )
        }
      </Answer>
      {making ? (
        <Make
          made={(made) => {
            setMaking(false)
            if (made) setShown(made)
          }}
        />
      ) : (
        <Button className="mt-2" onClick={() => setMaking(true)}>
          Make a key
        </Button>
      )}
    </section>
  )
}

function Row({ of, show }: { of: Key; show: (made: Schemas['CheckoutKeyMade']) => void }) {
  const due = useDueWords()
  const doing = useDoing()
  const over = of.revoked_at !== null
  const path = { params: { path: { id: of.id } } }
  const rotate = async () => {
    const made = await doing.run(() =>
      answerOf(api.POST('/api/keys/{id}/rotate', { ...path, body: { hours: OVERLAP } })),
    )
    if (made) show(made)
  }
  const revoke = () => doing.run(() => answerOf(api.DELETE('/api/keys/{id}', path)))
  return (
    <tr className={`border-t border-hair align-top ${over ? 'text-soft' : ''}`}>
      <th scope="row" className="py-1.5 pr-3 text-left font-medium">
        {of.name} {of.public && <Badge>public</Badge>} {over && <Badge>revoked</Badge>}
        {of.public && <span className="block text-xs font-normal text-soft">{of.origins?.join(', ')}</span>}
        {!over && of.ends_at && (
          <span className="block text-xs font-normal text-ochre">△ ends {due(of.ends_at)}</span>
        )}
      </th>
      <td className="py-1.5 pr-3 max-sm:hidden">
        <code className="text-xs">{of.start}…</code>
      </td>
      <td className="py-1.5 pr-3">
        {CALLS.filter(([call]) => of.calls?.includes(call))
          .map(([, words]) => words)
          .join(', ')}
      </td>
      <td className="py-1.5 pr-3 max-sm:hidden">{count(of.pace ?? 0)}</td>
      <td className="py-1.5 pr-3">{of.used_at ? due(of.used_at) : 'never'}</td>
      <td className="py-1 text-right whitespace-nowrap">
        {!over && (
          <>
            <Button
              look="quiet"
              disabled={doing.busy}
              data-tip={`Makes a new one; this one opens the door for ${counted(OVERLAP, 'hour')} more`}
              onClick={() => void rotate()}
            >
              Rotate
            </Button>
            <Sure
              act="Revoke"
              really="Revoke it: who uses it is refused at once"
              disabled={doing.busy}
              run={() => void revoke()}
            />
          </>
        )}
        {doing.error && <FieldError>{doing.error.message}</FieldError>}
      </td>
    </tr>
  )
}

function Make({ made }: { made: (made: Schemas['CheckoutKeyMade'] | null) => void }) {
  const doing = useDoing()
  const [name, setName] = useState('')
  const [kind, setKind] = useState<'server' | 'page'>('server')
  const [origins, setOrigins] = useState('')
  const [pace, setPace] = useState('600')
  const [calls, setCalls] = useState<readonly Call[]>(SHOPS)
  const page = kind === 'page'
  const wanted = CALLS.filter(([call]) => !page || !SERVERS.includes(call))
  const make = async () => {
    const body = {
      name,
      public: page,
      calls: wanted.map(([call]) => call).filter((call) => calls.includes(call)),
      pace: Number(pace) || 600,
      ...(page && { origins: origins.split(/[\s,]+/).filter(Boolean) }),
    }
    const answer = await doing.run(() => answerOf(api.POST('/api/keys', { body })))
    if (answer) made(answer)
  }
  const listed = doing.at('/origins')
  const known = doing.at('/name') ?? listed ?? doing.at('/calls') ?? doing.at('/pace')
  return (
    <section aria-label="Make a key" className="mt-2 flex flex-col gap-2 border-t border-ink pt-2">
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        <Typed
          label="Name, for yourself"
          width="w-56"
          value={name}
          error={doing.at('/name')}
          change={setName}
        />
        <Typed label="Requests a minute, at most" value={pace} error={doing.at('/pace')} change={setPace} />
      </div>
      <Radios
        label="Where it stands"
        value={kind}
        choose={setKind}
        stacked
        choices={[
          ['server', 'on the shop’s server, where nobody else reads it'],
          [
            'page',
            'in the shop’s pages, where every shopper can read it: prices of the catalogue only, and no orders',
            <Typed
              key="origins"
              label="Origins of those pages"
              width="w-96"
              placeholder="https://shop.example"
              value={origins}
              error={listed}
              change={setOrigins}
            />,
          ],
        ]}
      />
      <fieldset className="flex flex-wrap gap-x-4">
        <legend className="font-cond text-soft">It may ask for</legend>
        {wanted.map(([call, words]) => (
          <Tick
            key={call}
            on={calls.includes(call)}
            change={(on) => setCalls(on ? [...calls, call] : calls.filter((one) => one !== call))}
          >
            {words}
          </Tick>
        ))}
      </fieldset>
      {doing.at('/calls') && <FieldError>Choose at least one.</FieldError>}
      {doing.error && !known && <FieldError>{doing.error.message}</FieldError>}
      <div className="flex gap-1.5">
        <Button className="border-ink font-semibold" disabled={doing.busy} onClick={() => void make()}>
          Make the key
        </Button>
        <Button look="quiet" onClick={() => made(null)}>
          Cancel
        </Button>
      </div>
    </section>
  )
}
