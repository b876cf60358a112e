import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { answerOf, api, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useMaking } from '../edits/made'
import { useAct } from '../edits/use-act'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { count, counted } from '../ui/locale'
import { Radios } from '../ui/radios'
import { Badge, Empty } from '../ui/said'
import { Sure } from '../ui/sure'
import { Table } from '../ui/table'
import { Tick } from '../ui/tick'
import { Typed } from '../ui/typed'
import { Once } from '../ui/once'
import { useDueWords } from './planned'

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

/** What a key may ask for: one in pages is no server's. */
const callsOf = (page: boolean) => CALLS.filter(([call]) => !page || !SERVERS.includes(call))

/** Hours for which a key that was rotated opens the door still. */
const OVERLAP = 24

/** The keys that open the checkout door. */
export function Keys() {
  const [shown, setShown] = useState<Schemas['CheckoutKeyMade'] | null>(null)
  const [making, setMaking] = useState(false)
  const [closed, setClosed] = useState(false)
  const opener = useRef<HTMLButtonElement>(null)
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
          close={() => {
            setShown(null)
            opener.current?.focus()
          }}
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
            // The focus goes to the new secret, or back to the button.
            setClosed(!made)
            if (made) setShown(made)
          }}
        />
      ) : (
        <Button ref={opener} autoFocus={closed} className="mt-2" onClick={() => setMaking(true)}>
          Make a key
        </Button>
      )}
    </section>
  )
}

function Row({ of, show }: { of: Key; show: (made: Schemas['CheckoutKeyMade']) => void }) {
  const due = useDueWords()
  const thing = `/api/keys/${of.id}`
  const rotation = useAct(thing, 'rotate', `Rotate the key ${of.name}`)
  const revocation = useAct(thing, 'revoke', `Revoke the key ${of.name}`)
  const over = of.revoked_at !== null
  const path = { params: { path: { id: of.id } } }
  const busy = rotation.busy || revocation.busy
  const refused = rotation.message ?? revocation.message
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
              disabled={busy}
              data-tip={`Makes a new one; this one opens the door for ${counted(OVERLAP, 'hour')} more`}
              onClick={() =>
                rotation.beside(
                  (to) => to.POST('/api/keys/{id}/rotate', { ...path, body: { hours: OVERLAP } }),
                  show,
                )
              }
            >
              Rotate
            </Button>
            <Sure
              act="Revoke"
              really="Revoke it: who uses it is refused at once"
              disabled={busy}
              run={() => revocation.beside((to) => to.DELETE('/api/keys/{id}', path))}
            />
          </>
        )}
        {refused && <FieldError>{refused}</FieldError>}
      </td>
    </tr>
  )
}

const BLANK: { name: string; kind: 'server' | 'page'; origins: string; pace: string; calls: typeof SHOPS } = {
  name: '',
  kind: 'server',
  origins: '',
  pace: '600',
  calls: SHOPS,
}

function Make({ made }: { made: (made: Schemas['CheckoutKeyMade'] | null) => void }) {
  const { sendBeside } = useWorkshop()
  const making = useMaking('/api/keys', 'Make a key', BLANK, {
    send: ({ name, kind, origins, pace, calls }) => {
      const page = kind === 'page'
      const body = {
        name,
        public: page,
        calls: callsOf(page).flatMap(([call]) => (calls.includes(call) ? [call] : [])),
        pace: Number(pace) || 600,
        ...(page && { origins: origins.split(/[\s,]+/).filter(Boolean) }),
      }
      return sendBeside((to) => to.POST('/api/keys', { body }), 'releases')
    },
    added: made,
  })
  const { name, kind, origins, pace, calls } = making.doc
  const wanted = callsOf(kind === 'page')
  const listed = making.problemAt('/origins')
  const known = making.problemAt('/name') ?? listed ?? making.problemAt('/calls') ?? making.problemAt('/pace')
  return (
    <section aria-label="Make a key" className="mt-2 flex flex-col gap-2 border-t border-ink pt-2">
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        <Typed
          label="Internal name"
          width="w-56"
          value={name}
          error={making.problemAt('/name')}
          change={(name) => making.type({ name })}
        />
        <Typed
          label="Requests a minute, at most"
          value={pace}
          error={making.problemAt('/pace')}
          change={(pace) => making.type({ pace })}
        />
      </div>
      <Radios
        label="Where it stands"
        value={kind}
        choose={(kind) => making.type({ kind })}
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
              change={(origins) => making.type({ origins })}
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
            change={(on) =>
              making.type({ calls: on ? [...calls, call] : calls.filter((one) => one !== call) })
            }
          >
            {words}
          </Tick>
        ))}
      </fieldset>
      {making.problemAt('/calls') && <FieldError>Choose at least one.</FieldError>}
      {making.problem && !known && <FieldError>{making.problem}</FieldError>}
      <div className="flex gap-1.5">
        <Button className="border-ink font-semibold" disabled={making.busy} onClick={making.add}>
          Make the key
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            making.drop()
            made(null)
          }}
        >
          Cancel
        </Button>
      </div>
    </section>
  )
}
