import { ChevronDown, ChevronRight } from 'lucide-react'
import { useId, useState } from 'react'
import { useWorkshop } from '../edits/workshop'
import { useChoices, useGeography } from '../setup/queries'
import { countryName } from '../ui/locale'
import { momentWords } from '../ui/moment'
import { remarkSentence } from '../words/zones'
import { useBenchCart, type BenchCart } from '../cart/cart'
import { useBenchResult } from '../cart/result'
import { Refusals, Shopper } from './shopper'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

/** What of the order stands behind the one line, in a few words. */
function buyerWords(cart: BenchCart): string {
  const said = [
    cart.region,
    cart.street,
    cart.group,
    cart.coupons,
    cart.promotions,
    cart.discount && `${cart.discount} off the order`,
    cart.when && `as if ${momentWords(cart.when)}`,
    cart.billingCountry && `billed to ${countryName(cart.billingCountry)}`,
  ].filter(Boolean)
  return said.join(' · ') || 'anybody, now'
}

/**
 * Where the bench cart goes, in one line; region, street, buyer and moment open below it. What the quote needs besides
 * is asked for at once.
 */
export function Destination() {
  const { setup } = useWorkshop()
  const { cart, setAddress } = useBenchCart()
  const { bench } = useBenchResult()
  const { data: choices } = useChoices()
  const { data: geography } = useGeography()
  const own = useId()
  const [open, setOpen] = useState(false)
  const countries =
    choices?.countries ?? (cart.country ? [{ code: cart.country, name: countryName(cart.country) }] : [])
  const regions = geography?.regions[cart.country] ?? []
  const byRegion = setup.zones.some((zone) =>
    zone.areas.some((area) => area.country === cart.country && area.regions.length),
  )
  const decides = bench?.quote.landing?.decides
  const asksRegion = regions.length > 0 && (byRegion || open || cart.region !== '')
  const label = (field: string, text: string) => (
    <label htmlFor={`${own}-${field}`} className="font-cond text-soft">
      {text}
    </label>
  )
  return (
    <div className="flex flex-none flex-col gap-1">
      <span className="flex items-center gap-1">
        {label('country', 'To')}
        <Select
          label="To"
          id={`${own}-country`}
          className="min-w-0 flex-1"
          value={cart.country}
          choices={[['', 'country not known'], ...countries.map(({ code, name }) => [code, name] as const)]}
          choose={(value) => setAddress({ country: value, region: '' })}
        />
        <label htmlFor={`${own}-postcode`} className="sr-only">
          Postcode
        </label>
        <Input
          id={`${own}-postcode`}
          className={`w-24 ${decides === 'postcode' ? 'border-2 border-ink' : ''}`}
          maxLength={20}
          placeholder={geography?.forms[cart.country] ?? 'postcode'}
          value={cart.postcode}
          autoComplete="off"
          onChange={(event) => setAddress({ postcode: event.target.value })}
        />
      </span>
      {asksRegion && (
        <span className="grid grid-cols-[4.5rem_1fr] items-center">
          {label('region', 'Region')}
          <Select
            label="Region"
            id={`${own}-region`}
            className={`w-full ${decides === 'region' ? 'border-2 border-ink' : ''}`}
            value={cart.region}
            choices={[['', 'not known'], ...regions.map(({ code, name }) => [code, name] as const)]}
            choose={(value) => setAddress({ region: value })}
          />
        </span>
      )}
      {(bench?.quote.landing?.remarks ?? []).map((remark) => (
        <p key={remark} className="text-ochre">
          {remarkSentence(
            remark,
            cart.country,
            geography?.forms[cart.country],
            bench?.quote.landing?.country,
          )}
        </p>
      ))}
      <Button
        look="bare"
        className="flex min-h-7 items-center gap-1 rounded-xs text-left text-soft hover:text-ink"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {open ? <ChevronDown size={12} aria-hidden /> : <ChevronRight size={12} aria-hidden />}
        <span className="font-cond">Buyer</span>
        <span className="min-w-0 truncate text-ink">{buyerWords(cart)}</span>
      </Button>
      <Refusals />
      {open && (
        <div className="grid grid-cols-[4.5rem_minmax(0,1fr)] items-center gap-x-2 gap-y-1.5 border-l-4 border-ink pl-2">
          <Shopper />
          {label('street', 'Street')}
          <Input
            id={`${own}-street`}
            className="w-full"
            maxLength={120}
            placeholder="or PO Box 12"
            value={cart.street}
            autoComplete="off"
            onChange={(event) => setAddress({ street: event.target.value })}
          />
        </div>
      )}
    </div>
  )
}
