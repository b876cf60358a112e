import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, answerOf, type Offer, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { documentOf, momentOf, useBenchCart } from '../cart/cart'
import { formatsOf } from '../ui/format'
import { namesOf } from '../words/offers'
import { Table } from '../ui/table'
import { list } from '../ui/locale'

/** What is left of the margin on the bench cart, as it is and at the threshold. */
export function MarginsTable({ offer }: { offer: Offer }) {
  const { setup } = useWorkshop()
  const { cart } = useBenchCart()
  const formats = formatsOf(setup.store)
  const { lock_version: _, ...shown } = offer
  const body: Schemas['MarginsRequest'] = { cart: documentOf(cart), offer: shown, at: momentOf(cart) }
  const { data } = useQuery({
    queryKey: ['margins', setup.revision, body],
    queryFn: ({ signal }) => answerOf(api.POST('/api/margins', { body, signal })),
    placeholderData: keepPreviousData,
    enabled: cart.lines.length > 0,
    retry: false,
  })
  if (cart.lines.length === 0) return <p className="text-soft">Put goods on the bench to see what is left.</p>
  if (!data) return <p className="text-soft">Reckoning …</p>
  if (data.rows.length === 0)
    return <p className="text-soft">The bench cart goes to none of its zones, or by none of its methods.</p>
  const money = (amount: string | null) => (amount === null ? 'not known' : formats.money(amount))
  return (
    <>
      {data.unknown.length > 0 && (
        <p className="text-ochre">
          What these cost you is not known, so neither is the margin: {list(data.unknown)}.
        </p>
      )}
      <Table className="w-full max-w-3xl text-right">
        <thead>
          <tr className="font-cond text-soft">
            <th className="py-1 text-left font-medium">Cart</th>
            <th className="text-left font-medium">Method</th>
            <th className="font-medium">Goods</th>
            <th className="font-medium">Margin on them</th>
            <th className="font-medium">Shopper pays</th>
            <th className="font-medium">Shipping costs you</th>
            <th className="font-medium">Left</th>
          </tr>
        </thead>
        <tbody>
          {data.rows.map((row) => (
            <tr key={`${row.at} ${row.rate}`} className="border-t border-hair">
              <th className="py-1 text-left font-normal">
                {row.at === 'cart' ? 'as it is' : 'at the threshold'}
              </th>
              <td className="text-left">{namesOf([row.method], setup.methods)[0]}</td>
              <td>{money(row.value)}</td>
              <td>{money(row.margin)}</td>
              <td>{formats.price(row.paid)}</td>
              <td>{money(row.cost)}</td>
              <td className={row.left?.startsWith('-') ? 'font-semibold text-brick' : 'font-semibold'}>
                {money(row.left)}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {data.rows
        .filter((row) => row.at === 'threshold' && row.margin !== null && row.cost !== null)
        .map((row) => (
          <p key={row.rate} className="text-soft">
            At {money(row.value)} you pay {money(row.cost)} of shipping from {money(row.margin)} of margin by{' '}
            {namesOf([row.method], setup.methods)[0]}.
          </p>
        ))}
      <p className="text-soft">
        The cart is topped up or cut down in proportion. Margin is without tax; tax on shipping is left out.
        What goods cost stands in the catalogue, what shipping costs with each rate.
      </p>
    </>
  )
}
