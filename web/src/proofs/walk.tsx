import { byId } from '../api/by-id'
import { useQuery } from '@tanstack/react-query'
import { downloadCsv } from '../ui/download'
import { Bookmark, Download, Printer, ShoppingCart } from 'lucide-react'
import { useLocation, useNavigate } from 'react-router'
import { answerOf, api, type Schemas, type Setup } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { benchOf, useBenchCart } from '../cart/cart'
import { useAct } from '../edits/use-act'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { formatsOf, type Formats } from '../ui/format'
import { count, counted } from '../ui/locale'
import { Price } from '../ui/price'
import { Empty } from '../ui/said'
import { Select } from '../ui/select'
import { Table } from '../ui/table'
import { addressWords } from '../words/zones'
import { reasonSentence, walkedCart } from '../words/walk'

type Row = Schemas['Walk']['carts'][number]
type Scope = 'zone' | 'rate' | 'offer'

/** The carts that tell a zone, a rate or an offer apart, as a table that reads like a tariff. */
export function Walk() {
  const { setup } = useWorkshop()
  const { hash } = useLocation()
  const navigate = useNavigate()
  const asked = new URLSearchParams(hash.slice(1))
  const scope: Scope = asked.has('rate') ? 'rate' : asked.has('offer') ? 'offer' : 'zone'
  const things = {
    zone: setup.zones.map(({ id, name }) => [id, name] as const),
    rate: setup.rates.map((rate) => [rate.id, rateName(rate, setup)] as const),
    offer: setup.offers.map(({ id, name }) => [id, name] as const),
  }
  const id = asked.get(scope) ?? things[scope][0]?.[0] ?? ''
  const name = things[scope].find(([one]) => one === id)?.[1] ?? ''
  const go = (to: Scope, thing: string) =>
    void navigate(`/proofs/walk#${to}=${encodeURIComponent(thing)}`, { replace: true })
  const walked = useQuery({
    queryKey: ['walk', setup.revision, scope, id],
    queryFn: ({ signal }) => answerOf(api.POST('/api/walk', { body: { [scope]: id }, signal })),
    enabled: id !== '',
    placeholderData: (previous, query) => (query?.queryKey[3] === id ? previous : undefined),
  })
  return (
    <div className="pb-8">
      <p className="mb-2 max-w-3xl text-soft print:hidden">
        The carts that tell a zone, a rate or an offer apart: at, just below and just above every gate, each
        class and pairs of them, each group, both sides of every border. Keep them, and whatever moves a price
        is told.
      </p>
      <div className="mb-2 flex flex-wrap items-center gap-1.5 print:hidden">
        <span className="font-cond text-soft">Walk</span>
        <Select
          label="What to walk"
          value={scope}
          choices={[
            ['zone', 'a zone'],
            ['rate', 'a rate'],
            ['offer', 'an offer'],
          ]}
          choose={(next) => go(next, things[next][0]?.[0] ?? '')}
        />
        <Select
          label={`Which ${scope}`}
          className="max-w-80"
          value={id}
          choices={things[scope]}
          choose={(next) => go(scope, next)}
        />
        {walked.data && <Acts walk={walked.data} name={name} />}
      </div>
      {id === '' ? (
        <Empty>There is no {scope} to walk yet.</Empty>
      ) : (
        <Answer of={walked} waiting="Walking the edges …">
          {(walk) => <Tariff walk={walk} name={name} />}
        </Answer>
      )}
    </div>
  )
}

function rateName(rate: Schemas['Rate'], setup: ReturnType<typeof useWorkshop>['setup']): string {
  const method = byId(setup.methods, rate.method)?.name
  const zone = byId(setup.zones, rate.zone)?.name
  return `${rate.name ?? method} in ${zone}`
}

/** The methods that it looked at, as they are called now. */
const methodsOf = ({ methods }: Schemas['Walk'], setup: Setup) =>
  methods.flatMap((id) => setup.methods.filter((one) => one.id === id))

type Reasons = Schemas['Walk']['carts'][number]['reasons']
const firstReason = ([first]: Reasons, setup: Setup, formats: Formats) =>
  first ? reasonSentence(first, setup, formats) : ''

function Acts({ walk, name }: { walk: Schemas['Walk']; name: string }) {
  const { setup } = useWorkshop()
  const act = useAct('/api/proofs', `walk ${name}`, `Keep the carts of the walk of ${name}`)
  const formats = formatsOf(setup.store)
  // A proof hears what carriers said, and nothing made up.
  const kept = walk.carts.filter(({ carriers }) => carriers === null)
  const keep = () => {
    const proofs = kept.map(({ cart, at, reasons }) => ({
      name: `${name}: ${firstReason(reasons, setup, formats)}`.slice(0, 110),
      tags: [`walk of ${name}`.slice(0, 40)],
      cart,
      at,
    }))
    act.run(
      (to) => to.POST('/api/proofs/keep', { body: { proofs } }),
      undefined,
      ({ count: kept, there }) =>
        `Kept ${counted(kept, 'cart')}${there ? `; ${count(there)} were kept already` : ''}`,
    )
  }
  return (
    <>
      <Button className="ml-2 border-ink font-semibold" disabled={act.busy} onClick={keep}>
        <Bookmark size={13} aria-hidden />{' '}
        {act.busy ? 'Saving …' : `Save all ${count(kept.length)} as proofs`}
      </Button>
      <Button onClick={() => void downloadCsv(`walk of ${name}.csv`, rowsOf(walk, setup))}>
        <Download size={13} aria-hidden /> CSV
      </Button>
      <Button onClick={() => window.print()}>
        <Printer size={13} aria-hidden /> Print
      </Button>
      {act.message && <FieldError>{act.message}</FieldError>}
    </>
  )
}

/** The table as rows of a file: what is told apart, the cart, and a column for each method by its code. */
function rowsOf(walk: Schemas['Walk'], setup: ReturnType<typeof useWorkshop>['setup']) {
  const formats = formatsOf(setup.store)
  const methods = methodsOf(walk, setup)
  return [
    ['tells apart', 'cart', 'moment', 'carriers', ...methods.map(({ code }) => code)],
    ...walk.carts.map(({ reasons, cart, at, carriers, gets }) => [
      firstReason(reasons, setup, formats),
      walkedCart(cart),
      at ?? '',
      carriers ?? '',
      ...walk.methods.map((id) => gets[id] ?? 'none'),
    ]),
  ]
}

function Tariff({ walk, name }: { walk: Schemas['Walk']; name: string }) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const methods = methodsOf(walk, setup)
  const usual = walk.carts[0]?.cart
  return (
    <>
      <h2 className="hidden text-xl print:block">
        {setup.store?.name}: {name}
      </h2>
      {!walk.whole && (
        <p className="text-ochre">There are more than can be walked at once: walk single rates or offers.</p>
      )}
      <p className="mb-1 text-soft">
        {counted(walk.carts.length, 'cart')}, {counted(methods.length, 'method')}
        {usual?.destination && `, to ${addressWords(usual.destination)} unless another address is named`}
      </p>
      <Table aria-label={`Walk of ${name}`} sticky>
        <thead className="bg-paper lg:sticky lg:top-0 lg:z-10">
          <tr className="border-b border-ink text-left font-cond text-soft">
            <th className="py-1 pr-3 font-normal">Case</th>
            <th className="py-1 pr-3 font-normal">Cart</th>
            {methods.map(({ id, name: method }) => (
              <th key={id} className="px-2 py-1 text-right font-normal">
                {method}
              </th>
            ))}
            <th className="print:hidden">
              <span className="sr-only">Bench</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {walk.carts.map((row, at) => (
            <Line
              key={at}
              row={row}
              before={walk.carts[at - 1]}
              methods={walk.methods}
              usual={usual}
              formats={formats}
            />
          ))}
        </tbody>
      </Table>
    </>
  )
}

function Line({
  row,
  before,
  methods,
  usual,
  formats,
}: {
  row: Row
  usual: Schemas['Cart'] | undefined
  before: Row | undefined
  methods: string[]
  formats: Formats
}) {
  const { setup } = useWorkshop()
  const bench = useBenchCart()
  const said = [...new Set(row.reasons.map((reason) => reasonSentence(reason, setup, formats)))]
  const supposed =
    row.carriers && row.reasons[0]?.code !== 'carriers'
      ? reasonSentence({ code: 'carriers', carriers: row.carriers }, setup, formats)
      : null
  const [first, ...others] = supposed ? [`${said[0]}, ${supposed}`, ...said.slice(1)] : said
  return (
    <tr className="border-t border-hair align-top">
      <th scope="row" className="max-w-72 py-1 pr-3 text-left font-medium">
        {first}
        {others.length > 0 && (
          <span className="block text-xs font-normal text-soft">also {others.slice(0, 3).join('; ')}</span>
        )}
      </th>
      <td className="max-w-72 py-1 pr-3 text-xs text-soft">{walkedCart(row.cart, usual)}</td>
      {methods.map((id) => (
        <td key={id} className="px-2 py-1 text-right whitespace-nowrap">
          <Got
            got={row.gets[id]}
            formats={formats}
            same={before !== undefined && before.gets[id] === row.gets[id]}
          />
        </td>
      ))}
      <td className="print:hidden">
        <Button
          look="quiet"
          className="px-1"
          aria-label={`Put it on the bench: ${first}`}
          data-tip="Put it on the bench"
          onClick={() => bench.replace({ ...benchOf(row.cart, ''), when: row.at ?? '' })}
        >
          <ShoppingCart size={13} aria-hidden />
        </Button>
      </td>
    </tr>
  )
}

/** A price of the table; one that is as in the row above is told softly. */
function Got({ got, formats, same }: { got: string | undefined; formats: Formats; same: boolean }) {
  if (got === undefined || got === 'none') return <span className="text-soft">—</span>
  if (got === 'live') return <span className="font-cond text-soft">live</span>
  return same && Number(got) !== 0 ? (
    <span className="font-cond text-soft">{formats.money(got)}</span>
  ) : (
    <Price amount={got} formats={formats} />
  )
}
