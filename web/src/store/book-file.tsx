import { errorOf, keysOf } from '../api/shapes'
import { useQueryClient } from '@tanstack/react-query'
import { useId, useState, type ChangeEvent } from 'react'
import { ApiProblem, answerOf, type Schemas, type Setup } from '../api/client'
import type { Call } from '../edits/workshop'
import { foreseeing } from '../edits/use-act'
import { FieldError } from '../ui/field-error'
import { counted, list } from '../ui/locale'
import { Button } from '../ui/button'
import { Input } from '../ui/input'
import { Table } from '../ui/table'
import { Panel } from '../ui/said'

type Imported = Schemas['SetupImported']

const LISTS: Record<string, string> = {
  zones: 'zone',
  shipping_methods: 'method',
  products: 'product',
  shipping_classes: 'class',
  tax_classes: 'tax class',
  treatments: 'treatment',
  offers: 'offer',
  rules: 'rule',
  customer_groups: 'customer group',
  coupons: 'coupon',
  carriers: 'carrier',
  boxes: 'box',
}
const SIDES = { come: 'come', go: 'go', change: 'change' } as const
/** Faults that are told. */
const SHOWN = 12

interface Chosen {
  name: string
  book: Record<string, unknown>
  told: Imported
}

/** The whole setup as a file: out, and in; what comes and goes is shown first, and it is one change that can be undone. */
export function BookFile({ take }: { take: (call: Call<Imported>) => Promise<unknown> }) {
  const client = useQueryClient()
  const open = Boolean(client.getQueryData<Setup>(['setup'])?.store)
  const id = useId()
  const [chosen, setChosen] = useState<Chosen | null>(null)
  const [problem, setProblem] = useState<Error | null>(null)
  const [busy, setBusy] = useState(false)

  const ask = (book: Chosen['book']) =>
    answerOf(foreseeing.POST('/api/setup/import', { body: { book, store: false, revision: null } }))
  const choose = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0]
    event.target.value = ''
    if (!file) return
    setChosen(null)
    setProblem(null)
    setBusy(true)
    try {
      const book: Chosen['book'] = JSON.parse(await file.text())
      setChosen({ name: file.name, book, told: await ask(book) })
    } catch (error) {
      setProblem(
        error instanceof SyntaxError
          ? new Error(`${file.name} is no JSON: ${error.message}`)
          : errorOf(error),
      )
    } finally {
      setBusy(false)
    }
  }
  const store = async () => {
    const { book, told } = chosen!
    setBusy(true)
    setProblem(null)
    try {
      await take((to) =>
        to.POST('/api/setup/import', { body: { book, store: true, revision: told.revision } }),
      )
      setChosen(null)
      await client.invalidateQueries()
    } catch (error) {
      setProblem(errorOf(error))
      // Somebody changed something since: what would come and go is another now.
      if (error instanceof ApiProblem && error.problem.status === 409)
        setChosen({ ...chosen!, told: await ask(book) })
    } finally {
      setBusy(false)
    }
  }
  const faults = problem instanceof ApiProblem ? problem.problem.errors : []
  return (
    <section aria-labelledby={id} className="mt-8 max-w-3xl border-t border-hair pt-4">
      <h2 id={id} className="text-xl">
        {open ? 'The setup as a file' : 'Or take a setup from a file'}
      </h2>
      <p className="mt-1 text-soft">
        A book file holds zones, goods, rates, offers, rules and all that belongs to them. Accounts and
        secrets of carriers are never in it.
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        {open && (
          <a className="button" href="/api/setup/export" download="setup.json">
            Export the setup
          </a>
        )}
        <label className="button cursor-pointer focus-within:outline-2 focus-within:outline-offset-2">
          Import a setup …
          <Input
            bare
            type="file"
            accept="application/json,.json"
            className="sr-only"
            onChange={(event) => void choose(event)}
          />
        </label>
        {busy && <span className="text-soft">Reading the file …</span>}
      </div>
      {problem && (
        <Panel tone="bad" className="mt-3">
          <p>{faults.length ? 'The file can’t be taken. Nothing was changed.' : problem.message}</p>
          <ul>
            {faults.slice(0, SHOWN).map(({ pointer, detail }) => (
              <li key={pointer + detail}>
                <FieldError>
                  <span className="font-cond">{pointer.replace(/^\/book/, '') || '/'}</span> {detail}
                </FieldError>
              </li>
            ))}
          </ul>
          {faults.length > SHOWN && <p className="text-soft">and {faults.length - SHOWN} more</p>}
        </Panel>
      )}
      {chosen && (
        <Preview chosen={chosen} open={open} busy={busy} store={store} drop={() => setChosen(null)} />
      )}
    </section>
  )
}

function Preview({
  chosen: { name, told },
  open,
  busy,
  store,
  drop,
}: {
  chosen: Chosen
  open: boolean
  busy: boolean
  store: () => Promise<void>
  drop: () => void
}) {
  const rows = Object.entries(told.lists).filter(([, sides]) =>
    Object.values(sides).some(({ count }) => count > 0),
  )
  const rates = Object.values(told.rates).some((count) => count > 0)
  const nothing = rows.length === 0 && !rates && !told.store
  return (
    <div className="mt-3 border-l-4 border-ink bg-white px-3 py-2">
      <p className="font-medium">{name}</p>
      {nothing ? (
        <p>It says the same as what is there. Nothing would change.</p>
      ) : (
        <Table className="mt-1 w-full text-left align-top">
          <thead>
            <tr className="font-cond text-soft">
              <th className="font-medium">
                <span className="sr-only">What</span>
              </th>
              {Object.values(SIDES).map((side) => (
                <th key={side} className="pl-4 font-medium">
                  {side}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {told.store && (
              <tr className="border-t border-hair">
                <th className="py-1 font-normal">the shop itself</th>
                <td className="pl-4">–</td>
                <td className="pl-4">–</td>
                <td className="pl-4">yes</td>
              </tr>
            )}
            {rows.map(([list, sides]) => (
              <tr key={list} className="border-t border-hair align-top">
                <th className="py-1 font-normal whitespace-nowrap">
                  {counted(2, LISTS[list] ?? list).slice(2)}
                </th>
                {keysOf(SIDES).map((side) => (
                  <td key={side} className="py-1 pl-4">
                    {sides[side].count === 0 ? '–' : <Names {...sides[side]} />}
                  </td>
                ))}
              </tr>
            ))}
            {rates && (
              <tr className="border-t border-hair">
                <th className="py-1 font-normal">rates</th>
                {keysOf(SIDES).map((side) => (
                  <td key={side} className="py-1 pl-4">
                    {told.rates[side] || '–'}
                  </td>
                ))}
              </tr>
            )}
          </tbody>
        </Table>
      )}
      <p className="mt-2 flex flex-wrap gap-2">
        {!nothing && (
          <Button className="border-ink font-semibold" disabled={busy} onClick={() => void store()}>
            {open ? 'Put it in the place of what is there' : 'Open the shop with it'}
          </Button>
        )}
        <Button look="quiet" onClick={drop}>
          {nothing ? 'Close' : 'Cancel'}
        </Button>
      </p>
      {open && !nothing && <p className="text-soft">One change: Undo brings back all that was there.</p>}
    </div>
  )
}

function Names({ count, names }: { count: number; names: string[] }) {
  return (
    <>
      <b>{count}</b>{' '}
      <span className="text-soft">
        {list(names.slice(0, 4))}
        {count > 4 && ' …'}
      </span>
    </>
  )
}
