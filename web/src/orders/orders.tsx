import { byId } from '../api/by-id'
import { useQuery } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { Link, useLocation, useNavigate } from 'react-router'
import { answerOf, api, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { walkedCart } from '../words/walk'
import { ReckoningSteps } from '../reckoning/reckoning'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { formatsOf } from '../ui/format'
import { counted } from '../ui/locale'
import { Price } from '../ui/price'
import { Badge, Empty } from '../ui/said'
import { Table } from '../ui/table'
import { Typed } from '../ui/typed'
import { useDueWords } from '../releases/planned'

type Order = Schemas['ShopOrder']

/** What was sold with a quote of the checkout door: found by its number, and its price worked out again. */
export function Orders() {
  const { hash } = useLocation()
  const navigate = useNavigate()
  const [text, setText] = useState('')
  const opened = new URLSearchParams(hash.slice(1)).get('order')
  const orders = useQuery({
    queryKey: ['orders', text],
    queryFn: ({ signal }) =>
      answerOf(api.GET('/api/orders', { params: { query: { number: text } }, signal })),
    placeholderData: (previous) => previous,
    // They come from elsewhere.
    refetchOnWindowFocus: 'always',
  })
  return (
    <div className="max-w-5xl pb-8">
      <p className="mb-2 max-w-3xl text-soft">
        Orders come in through the checkout door. Each keeps the release, the cart and the moment of its
        quote, so that its price can be worked out again.
      </p>
      <Typed label="Order number begins with" width="w-44" value={text} change={setText} />
      <Answer of={orders}>
        {({ orders: found, count, uses }) =>
          found.length ? (
            <>
              <p className="mt-2 flex flex-wrap items-baseline gap-x-4">
                <a className="button" href="/api/orders.csv" download>
                  All orders as CSV
                </a>
                <Uses of={uses} />
              </p>
              <List
                orders={found}
                opened={opened}
                open={(number) =>
                  void navigate(number ? `#order=${encodeURIComponent(number)}` : '#', { replace: true })
                }
              />
              {count > found.length && (
                <p className="text-soft">
                  The newest {found.length} of {counted(count, 'order')}.
                </p>
              )}
            </>
          ) : (
            <Empty>
              {text ? 'No order has a number that begins like this.' : 'No order has come in yet. '}
              {!text && <Link to="/release/door">Make a key for your shop</Link>}
            </Empty>
          )
        }
      </Answer>
    </div>
  )
}

/** Of offers for the first orders only, how many have used them. */
function Uses({ of }: { of: Record<string, number> }) {
  const { setup } = useWorkshop()
  const limited = setup.offers.filter(({ first }) => first)
  if (limited.length === 0) return null
  return (
    <span className="text-soft">
      {limited.map(({ id, name, first }) => `${name}: ${of[id] ?? 0} of ${first} used`).join('; ')}
    </span>
  )
}

function List({
  orders,
  opened,
  open,
}: {
  orders: Order[]
  opened: string | null
  open: (number: string | null) => void
}) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const due = useDueWords()
  return (
    <Table aria-label="Orders" className="mt-2 w-full">
      <thead>
        <tr className="border-b border-ink text-left font-cond text-soft">
          {['Order', 'Placed', 'Zone', 'Method'].map((name) => (
            <th key={name} className="py-1 pr-3 font-normal">
              {name}
            </th>
          ))}
          <th className="py-1 pr-3 text-right font-normal">Paid</th>
          <th className="py-1 pr-3 font-normal">Release</th>
          <th className="py-1 pr-3 font-normal">State</th>
        </tr>
      </thead>
      <tbody>
        {orders.map((order) => (
          <Row
            key={order.number}
            order={order}
            placed={due(order.placed_at)}
            zone={byId(setup.zones, order.zone)?.name ?? order.zone}
            paid={<Price amount={order.price} formats={formats} />}
            opened={opened === order.number}
            open={() => open(opened === order.number ? null : order.number)}
          />
        ))}
      </tbody>
    </Table>
  )
}

function Row({
  order,
  placed,
  zone,
  paid,
  opened,
  open,
}: {
  order: Order
  placed: string
  zone: string
  paid: ReactNode
  opened: boolean
  open: () => void
}) {
  return (
    <>
      <tr className="border-t border-hair align-top">
        <th scope="row" className="py-1 pr-3 text-left">
          <Button look="opens" aria-expanded={opened} onClick={open}>
            {order.number}
          </Button>
        </th>
        <td className="py-1 pr-3">{placed}</td>
        <td className="py-1 pr-3">{zone}</td>
        <td className="py-1 pr-3">{order.name}</td>
        <td className="py-1 pr-3 text-right">{paid}</td>
        <td className="py-1 pr-3">{order.release}</td>
        <td className="py-1 pr-3">{order.state === 'placed' ? 'placed' : <Badge>{order.state}</Badge>}</td>
      </tr>
      {opened && (
        <tr>
          <td colSpan={7} className="pb-3">
            <Evidence number={order.number} />
          </td>
        </tr>
      )}
    </>
  )
}

function Evidence({ number }: { number: string }) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const found = useQuery({
    queryKey: ['orders', 'one', number],
    queryFn: ({ signal }) =>
      answerOf(api.GET('/api/orders/{number}', { params: { path: { number } }, signal })),
  })
  return (
    <Answer of={found} waiting="Working it out again …">
      {({ order, cart, quote }) => {
        const method = quote?.methods.find(({ code }) => code === order.code)
        if (!cart || !method)
          return <p className="text-soft">Its cart is not kept any more: only what was paid is.</p>
        return (
          <section
            aria-label={`Why order ${number} paid ${order.price}`}
            className="border-l-4 border-ink bg-white px-3 py-2"
          >
            <h2 className="text-base">
              Order {number} paid {formats.price(order.price)} for {order.name}, because
            </h2>
            <p className="text-xs text-soft">
              {walkedCart(cart)}; release {order.release}
            </p>
            <ol>
              <ReckoningSteps method={method} formats={formats} past />
            </ol>
          </section>
        )
      }}
    </Answer>
  )
}
