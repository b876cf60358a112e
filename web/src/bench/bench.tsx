import { ArrowLeftRight, Columns2, PackagePlus, PanelLeftClose, X } from 'lucide-react'
import { useId, useState, type ReactNode } from 'react'
import { useChoices, useGeography, useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import { countryName, formatsOf } from '../ui/format'
import { AdHoc } from './ad-hoc'
import { BesideCart, useBenchCart, useBeside } from './cart'
import { CartMenu } from './cart-menu'
import { Gets } from './gets'
import { GoodsSearch } from './goods-search'
import { Lines } from './lines'
import { Shopper } from './shopper'
import { BenchParcels } from '../parcels/bench-parcels'
import { remarkSentence } from '../zones/words'
import { BenchResultProvider, useBenchResult } from './result'

/** The test cart that is always at hand, and what it gets; a second one can stand beside it. */
export function Bench({ collapse }: { collapse: () => void }) {
  const { beside, open, close, swap } = useBeside()
  const control = (label: string, act: () => void, icon: ReactNode, title = label) => (
    <button type="button" className="quiet px-1" onClick={act} aria-label={label} title={title}>
      {icon}
    </button>
  )
  return (
    <aside
      id="bench"
      aria-label="Bench"
      className="relative flex w-full shrink-0 flex-col overflow-y-auto border-r border-ink bg-sheet lg:w-auto lg:flex-row"
    >
      <Column
        title="Bench"
        search="bench-search"
        controls={
          <>
            {!beside && control('Set a second cart beside it', open, <Columns2 size={14} aria-hidden />)}
            {control(
              'Hide the bench',
              collapse,
              <PanelLeftClose size={14} aria-hidden />,
              'Hide the bench (b)',
            )}
          </>
        }
      />
      {beside && (
        <BesideCart>
          <BenchResultProvider>
            <section aria-label="Second cart" className="contents">
              <Column
                title="Second cart"
                search="beside-search"
                controls={
                  <>
                    {control('Swap the two carts', swap, <ArrowLeftRight size={14} aria-hidden />)}
                    {control('Put the second cart away', close, <X size={14} aria-hidden />)}
                  </>
                }
              />
            </section>
          </BenchResultProvider>
        </BesideCart>
      )}
    </aside>
  )
}

/** One cart: its goods, where it goes, what it measures, and what it gets. */
function Column({ title, search, controls }: { title: string; search: string; controls: ReactNode }) {
  const { setup } = useWorkshop()
  const { cart, add, setAddress } = useBenchCart()
  const { bench, problemAt } = useBenchResult()
  const [adHoc, setAdHoc] = useState(false)
  const formats = formatsOf(setup.store!)
  const measures = bench?.quote.measures
  const offOrder = problemAt('/cart/order_discount')
  return (
    <div className="flex w-full shrink-0 flex-col gap-2.5 border-edge p-4 not-first:border-t lg:w-[299px] lg:overflow-y-auto lg:not-first:border-t-0 lg:not-first:border-l">
      <header className="flex items-baseline justify-between">
        <h2 className="text-xl">{title}</h2>
        <span className="flex">
          <CartMenu />
          {controls}
        </span>
      </header>
      <Lines formats={formats} />
      <span className="flex items-start gap-1">
        <span className="flex-1">
          <GoodsSearch id={search} formats={formats} take={(product) => add(product.sku!)} />
        </span>
        <button
          type="button"
          className="quiet h-8 px-1"
          aria-expanded={adHoc}
          aria-label="Goods not in the catalogue"
          title="Goods not in the catalogue"
          onClick={() => setAdHoc(!adHoc)}
        >
          <PackagePlus size={16} aria-hidden />
        </button>
      </span>
      {adHoc && <AdHoc close={() => setAdHoc(false)} />}
      <Destination />
      <Shopper />
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
          {measures.longest && (
            <span
              title={measures.unsized.length ? `no size known: ${measures.unsized.join(', ')}` : undefined}
            >
              longest <b className="text-ink">{measures.longest}</b>
            </span>
          )}
          <label className="inline-flex items-center gap-1">
            off the order
            <input
              className="w-14 rounded-xs border border-edge bg-white px-1 text-ink"
              aria-label={`Off the whole order, ${formats.symbol}`}
              aria-invalid={offOrder ? true : undefined}
              placeholder="0"
              inputMode="decimal"
              value={cart.discount}
              onChange={(event) => setAddress({ discount: event.target.value })}
            />
          </label>
        </p>
      )}
      {offOrder && <FieldError>{offOrder}</FieldError>}
      <Gets formats={formats} />
      <BenchParcels />
    </div>
  )
}

/** The bench address: it asks only for what the quote needs, and for the rest when it is wanted. */
function Destination() {
  const { setup } = useWorkshop()
  const { cart, setAddress } = useBenchCart()
  const { bench } = useBenchResult()
  const { data: choices } = useChoices()
  const { data: geography } = useGeography()
  const own = useId()
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
      <label htmlFor={`${own}-country`} className="font-cond text-soft">
        To
      </label>
      <select
        id={`${own}-country`}
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
          <label htmlFor={`${own}-region`} className="font-cond text-soft">
            Region
          </label>
          <select
            id={`${own}-region`}
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
      <label htmlFor={`${own}-postcode`} className="font-cond text-soft">
        Postcode
      </label>
      <input
        id={`${own}-postcode`}
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
          <label htmlFor={`${own}-street`} className="font-cond text-soft">
            Street
          </label>
          <input
            id={`${own}-street`}
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
