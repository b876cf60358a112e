import { byId } from '../api/by-id'
import { Status } from '../ui/alerts'
import { errorOf } from '../api/shapes'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, answerOf, type Carrier, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useActs } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { AddByName } from '../forms/add-by-name'
import { Answer } from '../ui/answer'
import { Field } from '../forms/field'
import { counted, list } from '../ui/locale'
import { Switch } from '../ui/switch'
import { Remover } from '../ui/row-buttons'
import { Table } from '../ui/table'
import { Button } from '../ui/button'
import { timeWords } from '../ui/moment'
import { Empty } from '../ui/said'

type State = Schemas['CarriersState']
type Tested = Schemas['CarrierTested']

const OUTCOMES: Record<State['calls'][number]['outcome'], string> = {
  answered: 'answered',
  silent: 'silent or down',
  fault: 'a fault of this server',
  refused: 'refused',
  unusable: 'not usable',
}

/** The carriers that live rates ask, how they are reached, and what came of the last calls. */
export function Carriers() {
  const { setup } = useWorkshop()
  const asked = useQuery({
    queryKey: ['carriers', setup.revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/carriers/state', { signal })),
    refetchInterval: 5000,
  })
  const state = asked.data
  return (
    <div className="px-4 pt-3 pb-10">
      <h1 className="text-2xl">Carriers</h1>
      <p className="mb-2 max-w-3xl text-soft">
        Live rates ask these at the moment of checkout. Which of their services a rate asks, and what happens
        in trouble, stands with the rate on the Board. Secrets are encrypted and never shown again.
      </p>
      <ul aria-label="Carriers">
        {setup.carriers.map((carrier) => (
          <Row key={carrier.id} carrier={carrier} resting={state?.resting.includes(carrier.id) ?? false} />
        ))}
      </ul>
      {setup.carriers.length === 0 && <Empty>There are no carriers yet: every price is your own.</Empty>}
      <AddByName kind="carriers" what="carrier" inputId="new-carrier" />
      <h2 className="mt-4 text-lg">The last calls</h2>
      <Answer of={asked}>{({ calls }) => <Calls calls={calls} />}</Answer>
    </div>
  )
}

function Row({ carrier, resting }: { carrier: Carrier; resting: boolean }) {
  const { setup } = useWorkshop()
  const acts = useActs()
  const edited = useEdited('carriers', carrier)
  const [tested, setTested] = useState<Tested | 'asking' | null>(null)
  const rates = setup.rates.filter(({ live }) =>
    live?.services.some((service) => service.carrier === carrier.id),
  ).length
  const field = (name: 'name' | 'address' | 'account', label: string, width: string, placeholder = '') => (
    <Field
      of={edited}
      at={name}
      label={label}
      width={width}
      placeholder={placeholder}
      write={(text) => ({ [name]: text || null })}
    />
  )
  const test = async () => {
    setTested('asking')
    try {
      setTested(await answerOf(api.POST('/api/carriers/{id}/test', { params: { path: { id: carrier.id } } })))
    } catch (error) {
      setTested({ ok: false, said: errorOf(error).message, services: [], new: 0 })
    }
  }
  const take = (services: Tested['services']) => {
    const name = `Take services of ${carrier.name}`
    const more = ({ services: known = [] }: typeof edited.doc) => ({
      services: [...known, ...services.filter(({ code }) => !known.some((service) => service.code === code))],
    })
    edited.put('services', name, more, { onTop: true })
    setTested(null)
  }
  return (
    <li className="border-t border-hair py-2">
      <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
        {field('name', 'Name', 'w-44')}
        {field('address', 'Address', 'w-72', 'https://carrier.example/api')}
        {field('account', 'Account', 'w-32', 'none')}
        <Field
          of={edited}
          at="secret"
          label="Secret"
          width="w-40"
          placeholder={
            carrier.has_secret
              ? 'set, type to replace'
              : carrier.secret_lost
                ? 'lost: type it again'
                : 'none yet'
          }
          value={() => ''}
        />
        <span className="flex items-center gap-2 pt-5">
          <Switch
            label={`${carrier.name} on`}
            on={edited.doc.active ?? true}
            change={(active) => edited.put('active', `${carrier.name} on`, () => ({ active }))}
          />
          <Button onClick={() => void test()}>Test the connection</Button>
          <Remover name={carrier.name} remove={() => acts.remove('carriers', carrier, carrier.name)} />
        </span>
      </div>
      <p className="text-soft">
        {list((carrier.services ?? []).map(({ name }) => name)) || 'No services are known yet'};{' '}
        {rates ? `asked by ${counted(rates, 'rate')}` : 'asked by no rate yet'}
      </p>
      {carrier.secret_lost && (
        <p className="text-ochre">
          <span aria-hidden>△ </span>Its secret can’t be read any more, because the keys were lost. Type it
          again.
        </p>
      )}
      {resting && (
        <p className="text-ochre">
          <span aria-hidden>△ </span>It has failed several times in a row and is left alone for a while.
        </p>
      )}
      <Status>
        {tested === 'asking' && 'Asking …'}
        {tested && tested !== 'asking' && !tested.ok && (
          <span className="font-medium text-brick">
            <span aria-hidden>▲ </span>
            {tested.said}
          </span>
        )}
        {tested && tested !== 'asking' && tested.ok && (
          <>
            It answers, with {counted(tested.services.length, 'service')}.{' '}
            {tested.new > 0 && <Button onClick={() => take(tested.services)}>Take {tested.new} new</Button>}
          </>
        )}
      </Status>
    </li>
  )
}

function Calls({ calls }: { calls: State['calls'] }) {
  const { setup } = useWorkshop()
  if (!calls.length) return <p className="border-t border-hair py-2 text-soft">Nobody was asked yet.</p>
  return (
    <Table className="w-full max-w-4xl">
      <thead>
        <tr className="text-left font-cond text-soft">
          <th className="py-1 font-medium">When</th>
          <th className="font-medium">Carrier</th>
          <th className="font-medium">To</th>
          <th className="text-right font-medium">Parcels</th>
          <th className="pr-4 text-right font-medium">Took</th>
          <th className="font-medium">Outcome</th>
        </tr>
      </thead>
      <tbody>
        {calls.slice(0, 25).map((one, at) => (
          <tr key={at} className="border-t border-hair">
            <td className="py-0.5">{timeWords(one.at, { timeStyle: 'medium' })}</td>
            <td>{byId(setup.carriers, one.carrier)?.name ?? 'gone'}</td>
            <td>{one.to}</td>
            <td className="text-right">{one.parcels}</td>
            <td className="pr-4 text-right">{one.milliseconds} ms</td>
            <td className={one.outcome === 'answered' ? '' : 'text-ochre'}>
              {OUTCOMES[one.outcome]}
              {one.said && `: ${one.said}`}
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  )
}
