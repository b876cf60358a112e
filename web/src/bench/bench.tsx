import { Link2, PanelLeftClose, X } from 'lucide-react'
import { useState } from 'react'
import { toast } from 'sonner'
import { useChoices, useGeography, useWorkshop } from '../api/setup'
import { countryName, formatsOf, type Formats } from '../ui/format'
import { useBenchCart, type BenchLine } from './cart'
import { Gets } from './gets'
import { GoodsSearch } from './goods-search'
import { remarkSentence } from '../zones/words'
import { useBenchResult } from './result'
import { Stepper } from './stepper'

/** The test cart that is always at hand, and what it gets. */
export function Bench({ collapse }: { collapse: () => void }) {
  const { setup } = useWorkshop()
  const { cart, add, clear } = useBenchCart()
  const { bench } = useBenchResult()
  const formats = formatsOf(setup.store!)
  const measures = bench?.quote.measures
  const share = async () => {
    try {
      await navigator.clipboard.writeText(location.href)
      toast('Copied: the address of this page with the cart in it')
    } catch {
      toast('The browser does not let this page copy. Copy the address of this page: the cart is in it.')
    }
  }
  return (
    <aside
      id="bench"
      aria-label="Bench"
      className="relative flex w-full shrink-0 flex-col gap-2.5 overflow-y-auto border-r border-ink bg-sheet p-4 lg:w-[300px]"
    >
      <header className="flex items-baseline justify-between">
        <h2 className="text-xl">Bench</h2>
        <span className="flex">
          <button type="button" className="quiet" disabled={cart.lines.length === 0} onClick={clear}>
            Empty it
          </button>
          <button type="button" className="quiet" onClick={() => void share()}>
            <Link2 size={14} aria-hidden /> Copy link
          </button>
          <button
            type="button"
            className="quiet"
            onClick={collapse}
            aria-label="Hide the bench"
            title="Hide the bench (b)"
          >
            <PanelLeftClose size={14} aria-hidden />
          </button>
        </span>
      </header>
      {cart.lines.length > 0 && (
        <ul aria-label="Goods on the bench">
          {cart.lines.map((line) => (
            <Line key={line.sku} line={line} formats={formats} />
          ))}
        </ul>
      )}
      <GoodsSearch formats={formats} take={(product) => add(product.sku!)} />
      <Destination />
      {measures && cart.lines.length > 0 && (
        <p className="flex flex-wrap gap-x-3 text-soft">
          <span>
            value <b className="text-ink">{formats.money(measures.value)}</b>
          </span>
          <span>
            weight{' '}
            <b className="text-ink" title={measures.unweighed.join(', ')}>
              {measures.weight ?? 'not known'}
            </b>
          </span>
          <span>
            quantity <b className="text-ink">{measures.quantity}</b>
          </span>
        </p>
      )}
      <Gets formats={formats} />
    </aside>
  )
}

function Line({ line, formats }: { line: BenchLine; formats: Formats }) {
  const { setQuantity, remove } = useBenchCart()
  const { bench } = useBenchResult()
  const quoted = bench?.quote.lines.find((candidate) => candidate.sku === line.sku)
  const name = quoted?.name ?? line.sku
  return (
    <li className="group flex items-center gap-2 border-t border-hair py-1.5">
      <span className="min-w-0 flex-1 leading-tight">
        <span className="font-medium break-words">{name}</span>
        {quoted && !quoted.known && (
          <span className="block font-medium text-brick">Not in the catalogue</span>
        )}
        {quoted && !quoted.ships && <span className="block text-soft">needs no shipping</span>}
        {quoted?.known && quoted.ships && (
          <span className="block text-xs text-soft">
            {quoted.weight ? `${quoted.weight} in all` : 'no weight known'}
          </span>
        )}
      </span>
      <Stepper label={name} value={line.quantity} change={(quantity) => setQuantity(line.sku, quantity)} />
      <span className="min-w-14 text-right">{quoted?.value ? formats.money(quoted.value) : '–'}</span>
      <button
        type="button"
        className="quiet -mr-2 px-1"
        aria-label={`Take ${name} off the bench`}
        onClick={() => remove(line.sku)}
      >
        <X size={13} aria-hidden />
      </button>
    </li>
  )
}

/** The bench address: it asks only for what the quote needs, and for the rest when it is wanted. */
function Destination() {
  const { setup } = useWorkshop()
  const { cart, setAddress } = useBenchCart()
  const { bench } = useBenchResult()
  const { data: choices } = useChoices()
  const { data: geography } = useGeography()
  const [more, setMore] = useState(false)
  const countries =
    choices?.countries ?? (cart.country ? [{ code: cart.country, name: countryName(cart.country) }] : [])
  const regions = geography?.regions[cart.country] ?? []
  const byRegion = setup.zones.some((zone) =>
    zone.areas.some((area) => area.country === cart.country && area.regions.length),
  )
  const asksRegion = regions.length > 0 && (byRegion || more || cart.region !== '')
  const decides = bench?.quote.landing?.decides
  return (
    <div className="grid grid-cols-[4.5rem_1fr] items-center gap-x-2 gap-y-1.5">
      <label htmlFor="bench-country" className="font-cond text-soft">
        To
      </label>
      <select
        id="bench-country"
        className="field w-full"
        value={cart.country}
        onChange={(event) => setAddress({ country: event.target.value, region: '' })}
      >
        <option value="">country not known</option>
        {countries.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </select>
      {asksRegion && (
        <>
          <label htmlFor="bench-region" className="font-cond text-soft">
            Region
          </label>
          <select
            id="bench-region"
            className={`field w-full ${decides === 'region' ? 'border-2 border-ink' : ''}`}
            value={cart.region}
            onChange={(event) => setAddress({ region: event.target.value })}
          >
            <option value="">not known</option>
            {regions.map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </select>
        </>
      )}
      <label htmlFor="bench-postcode" className="font-cond text-soft">
        Postcode
      </label>
      <input
        id="bench-postcode"
        className={`field w-full ${decides === 'postcode' ? 'border-2 border-ink' : ''}`}
        maxLength={20}
        placeholder={geography?.forms[cart.country] ? `such as ${geography.forms[cart.country]}` : ''}
        value={cart.postcode}
        autoComplete="off"
        onChange={(event) => setAddress({ postcode: event.target.value })}
      />
      {(bench?.quote.landing?.remarks ?? []).map((remark) => (
        <p key={remark} className="col-span-2 text-ochre">
          {remarkSentence(remark, cart.country, geography?.forms[cart.country])}
        </p>
      ))}
      {more || cart.street ? (
        <>
          <label htmlFor="bench-street" className="font-cond text-soft">
            Street
          </label>
          <input
            id="bench-street"
            className="field w-full"
            maxLength={120}
            placeholder="or PO Box 12"
            value={cart.street}
            autoComplete="off"
            onChange={(event) => setAddress({ street: event.target.value })}
          />
        </>
      ) : (
        <button
          type="button"
          className="quiet col-start-2 justify-self-start px-0"
          onClick={() => setMore(true)}
        >
          More of the address
        </button>
      )}
    </div>
  )
}
