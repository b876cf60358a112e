import { Status } from '../ui/alerts'
import { ShoppingCart } from 'lucide-react'
import { Fragment, useState } from 'react'
import type { Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { benchOf, useBenchCart } from '../cart/cart'
import { FindingsList } from '../findings/findings-list'
import { reasonSentence, walkedCart } from '../words/walk'
import { Button } from '../ui/button'
import { formatsOf, type Formats } from '../ui/format'
import { counted } from '../ui/locale'
import { Price } from '../ui/price'
import { Empty } from '../ui/said'
import { Table } from '../ui/table'

type Changes = Schemas['CartChanges']
type Change = Changes['carts'][number]

/** What changes for carts, the largest first: zones, prices before and after, and findings that are new. */
export function CartChanges({ changes, none }: { changes: Changes; none: string }) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  if (!changes.ready) return <Status className="py-2 text-soft">Pricing carts in both …</Status>
  const { gained, lost, carts, findings, whole } = changes
  if (!gained.length && !lost.length && !carts.length && !findings.length) return <Empty>{none}</Empty>
  return (
    <>
      {lost.length > 0 && (
        <p className="text-brick">
          <span aria-hidden>▲ </span>Nothing is sent any more to {lost.join(', ')}.
        </p>
      )}
      {gained.length > 0 && <p>Served from then on: {gained.join(', ')}.</p>}
      {!whole && <p className="text-ochre">There is too much that differs to look at every cart.</p>}
      {carts.length > 0 && (
        <Table aria-label="What changes for carts" className="w-full max-w-5xl">
          <thead>
            <tr className="border-b border-ink text-left font-cond text-soft">
              <th className="py-1 pr-3 font-normal">Where</th>
              <th className="py-1 pr-3 font-normal">Cart</th>
              <th className="py-1 pr-3 font-normal">What it gets</th>
              <th>
                <span className="sr-only">Bench</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {alike(carts).map((group) => (
              <Group key={group.key} of={group.changes} formats={formats} />
            ))}
          </tbody>
        </Table>
      )}
      {findings.length > 0 && (
        <section aria-label="New findings" className="mt-3">
          <h3 className="text-base">New findings</h3>
          <FindingsList findings={findings} named />
        </section>
      )}
    </>
  )
}

/** What happens to a method, whatever it cost. */
const happens = ({ before, after }: Change['methods'][number]) =>
  before === null ? 'comes' : after === null ? 'goes' : Number(after) > Number(before) ? 'up' : 'down'

/** Changes of one zone in which the same happens to the same methods, in the order of the first of each. */
function alike(carts: readonly Change[]): { key: string; changes: Change[] }[] {
  const groups = new Map<string, Change[]>()
  for (const change of carts) {
    const key = JSON.stringify([
      change.zone,
      change.methods.map((one) => [one.code, happens(one)]),
      change.text,
    ])
    groups.set(key, [...(groups.get(key) ?? []), change])
  }
  return [...groups].map(([key, changes]) => ({ key, changes }))
}

/** The largest of some that are alike, and the others when they are asked for. */
function Group({ of: [first, ...others], formats }: { of: Change[]; formats: Formats }) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Row change={first!} formats={formats} />
      {open && others.map((change, at) => <Row key={at} change={change} formats={formats} />)}
      {others.length > 0 && (
        <tr>
          <td />
          <td colSpan={3} className="pb-1.5">
            <Button
              look="quiet"
              className="px-0 underline"
              aria-expanded={open}
              onClick={() => setOpen(!open)}
            >
              {open ? 'Show fewer' : `${counted(others.length, 'other price')} of the same kind`}
            </Button>
          </td>
        </tr>
      )}
    </>
  )
}

function Row({ change, formats }: { change: Change; formats: Formats }) {
  const { setup } = useWorkshop()
  const bench = useBenchCart()
  const { cart, at, proofs, reasons, count, methods, text, zone } = change
  const what =
    proofs.length > 0
      ? `Proof${proofs.length > 1 ? 's' : ''}: ${proofs.slice(0, 3).join(', ')}${proofs.length > 3 ? ` and ${proofs.length - 3} more` : ''}`
      : reasons[0] && reasonSentence(reasons[0], setup, formats)
  return (
    <tr className="border-t border-hair align-top">
      <td className="py-1.5 pr-3 font-medium">{zone ?? 'Not served'}</td>
      <td className="max-w-96 py-1.5 pr-3">
        {what && <span className={proofs.length ? 'font-medium' : ''}>{what}</span>}
        <span className="block text-xs text-soft">
          {walkedCart(cart)}
          {count > 1 && ` — and ${counted(count - 1, 'other cart')} alike`}
        </span>
      </td>
      <td className="py-1.5 pr-3">
        <span className="grid grid-cols-[minmax(7rem,max-content)_auto] gap-x-3">
          {methods.map((one) => (
            <Fragment key={one.code}>
              <span>{one.name}</span>
              <span className="whitespace-nowrap">
                <Side amount={one.before} formats={formats} />
                <span aria-hidden className="text-soft">
                  {' → '}
                </span>
                <span className="sr-only">, then </span>
                <Side amount={one.after} formats={formats} />
              </span>
            </Fragment>
          ))}
        </span>
        {text && (
          <span className="block text-xs">
            {text[1] ? (
              <>
                <span className="text-soft">Says </span>“{text[1]}”
              </>
            ) : (
              <span className="text-soft">Says no more “{text[0]}”</span>
            )}
          </span>
        )}
      </td>
      <td>
        <Button
          look="quiet"
          className="px-1"
          aria-label="Put this cart on the bench"
          data-tip="Put it on the bench"
          onClick={() => bench.replace({ ...benchOf(cart, ''), when: at ?? '' })}
        >
          <ShoppingCart size={13} aria-hidden />
        </Button>
      </td>
    </tr>
  )
}

function Side({ amount, formats }: { amount: string | null; formats: Formats }) {
  if (amount === null) return <span className="font-cond text-soft">not offered</span>
  return <Price amount={amount} formats={formats} />
}
