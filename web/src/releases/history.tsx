import { Download, ShoppingCart, Undo2 } from 'lucide-react'
import { useState } from 'react'
import type { Schemas } from '../api/client'
import { standOn } from '../cart/standing'
import { useAct } from '../edits/use-act'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { Badge, Empty } from '../ui/said'
import { Select } from '../ui/select'
import { Table } from '../ui/table'
import { toast } from '../ui/toast'
import { CartChanges } from './cart-changes'
import { Planned, useDueWords } from './planned'
import { useCartChanges, useReleases, type Release } from './use-releases'

/** Every release, from when to when it was live; two of them side by side; the way back. */
export function ReleaseHistory() {
  return (
    <div className="pb-8">
      <Answer of={useReleases()}>
        {(all) =>
          all.releases.length ? (
            <>
              {all.planned.map((one) => (
                <Planned key={one.id} of={one} />
              ))}
              <List all={all} />
              <Compare all={all} />
            </>
          ) : (
            <Empty>Nothing has been published yet.</Empty>
          )
        }
      </Answer>
    </div>
  )
}

function List({ all }: { all: Schemas['Releases'] }) {
  return (
    <Table aria-label="All releases" className="w-full max-w-5xl">
      <thead>
        <tr className="border-b border-ink text-left font-cond text-soft">
          <th className="py-1 pr-3 font-normal">Release</th>
          <th className="py-1 pr-3 font-normal">Went live</th>
          <th className="py-1 pr-3 font-normal">By</th>
          <th className="py-1 pr-3 font-normal">Note</th>
          <th className="py-1 pr-3 font-normal">Digest</th>
          <th>
            <span className="sr-only">What can be done with it</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {all.releases.map((release) => (
          <Row key={release.number} release={release} all={all} />
        ))}
      </tbody>
    </Table>
  )
}

function Row({ release, all }: { release: Release; all: Schemas['Releases'] }) {
  const due = useDueWords()
  const way = useAct('/api/releases', `return ${release.number}`, `Go back to release ${release.number}`)
  const { number, digest, by, note, overruled } = release
  const times = all.publications.filter((one) => one.release === number && !one.withdrawn)
  const live = all.live === number
  const back = () =>
    way.beside(
      (to) => to.POST('/api/releases/{number}/return', { params: { path: { number } }, body: { by } }),
      () => toast(`Release ${number} is live again`),
    )
  return (
    <tr className="border-t border-hair align-top">
      <th scope="row" className="py-1.5 pr-3 text-left font-semibold whitespace-nowrap">
        {number} {live && <Badge>live</Badge>}
      </th>
      <td className="py-1.5 pr-3">
        {times.length ? times.map(({ due: at }) => due(at)).join('; ') : 'never'}
      </td>
      <td className="py-1.5 pr-3">{by}</td>
      <td className="max-w-80 py-1.5 pr-3">
        {note}
        {overruled && <span className="block text-ochre">△ Proofs did not hold: {overruled}</span>}
        {way.message && <FieldError>{way.message}</FieldError>}
      </td>
      <td className="py-1.5 pr-3">
        <code className="text-xs text-soft" data-tip={digest}>
          {digest.slice(0, 10)}
        </code>
      </td>
      <td className="py-1 text-right whitespace-nowrap">
        {!live && (
          <Button look="quiet" disabled={way.busy} onClick={back}>
            <Undo2 size={13} aria-hidden /> Go back to {number}
          </Button>
        )}
        <Button look="quiet" data-tip="What the bench cart gets by it" onClick={() => standOn(number)}>
          <ShoppingCart size={13} aria-hidden /> On the bench
        </Button>
        <a
          className="quiet inline-flex items-center gap-1"
          href={`/api/releases/${number}/book`}
          aria-label={`Export release ${number} as a book file`}
        >
          <Download size={13} aria-hidden /> Book
        </a>
      </td>
    </tr>
  )
}

function Compare({ all }: { all: Schemas['Releases'] }) {
  const [newest, before] = all.releases.map(({ number }) => String(number))
  const [from, setFrom] = useState(before ?? newest ?? '')
  const [to, setTo] = useState(before ? newest! : 'draft')
  const choices = all.releases.map(({ number }) => [String(number), `release ${number}`] as const)
  const changed = useCartChanges(from, to, from !== to)
  return (
    <section aria-label="Compare" className="mt-4 border-t border-ink pt-2">
      <h2 className="text-lg">What changed for carts</h2>
      <div className="mb-2 flex flex-wrap items-center gap-1.5">
        <span className="font-cond text-soft">From</span>
        <Select label="From" value={from} choices={choices} choose={setFrom} />
        <span className="font-cond text-soft">to</span>
        <Select label="To" value={to} choices={[...choices, ['draft', 'the draft']]} choose={setTo} />
      </div>
      {from === to ? (
        <Empty>Choose two that differ.</Empty>
      ) : (
        <Answer of={changed} waiting="Pricing carts in both …">
          {(found) => (
            <CartChanges changes={found} none="No cart gets anything else in one than in the other." />
          )}
        </Answer>
      )}
    </section>
  )
}
