import type { Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { benchOf, useBenchCart } from '../cart/cart'
import { Button } from '../ui/button'
import { formatsOf } from '../ui/format'
import { count } from '../ui/locale'
import { Table } from '../ui/table'
import { causeWords, goodsWords, whereWords } from '../words/live'

/** Carts that could get nothing, those alike in a row, each with the smallest of them for the bench. */
export function AwayTable({ label, rows }: { label: string; rows: Schemas['TurnedAway'][] }) {
  const { setup } = useWorkshop()
  const { replace } = useBenchCart()
  const formats = formatsOf(setup.store)
  return (
    <Table aria-label={label} className="w-full">
      <thead>
        <tr className="border-b border-ink text-left font-cond text-soft">
          <th className="py-1 pr-3 font-normal">Where to</th>
          <th className="py-1 pr-3 font-normal">Goods</th>
          <th className="py-1 pr-3 font-normal">Why</th>
          <th className="py-1 pr-3 text-right font-normal">Carts</th>
          <th className="py-1 pr-3 text-right font-normal max-sm:hidden">Worth</th>
          <th>
            <span className="sr-only">Look at it</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={`${row.first_at} ${JSON.stringify(row.cart)}`} className="border-t border-hair align-top">
            <th scope="row" className="py-1.5 pr-3 text-left font-medium">
              {whereWords(row, setup)}
            </th>
            <td className="py-1.5 pr-3 break-words">{goodsWords(row)}</td>
            <td className="py-1.5 pr-3">{causeWords(row)}</td>
            <td className="py-1.5 pr-3 text-right tabular-nums">{count(row.times)}</td>
            <td className="py-1.5 pr-3 text-right tabular-nums max-sm:hidden">{formats.money(row.worth)}</td>
            <td className="py-1 text-right">
              <Button
                look="quiet"
                className="underline"
                data-tip="The smallest of these carts"
                onClick={() => replace(benchOf(row.cart, ''))}
              >
                On the bench
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  )
}
