import { useId, useState } from 'react'
import { useChoices, useWorkshop } from '../api/setup'
import { momentWords } from '../ui/moment'
import { useBenchCart } from './cart'
import { useBenchResult } from './result'

/** Who buys, with what, and when: the bench can be any group, any coupon, any moment. */
export function Shopper() {
  const { setup } = useWorkshop()
  const { cart, setAddress } = useBenchCart()
  const { bench } = useBenchResult()
  const { data: choices } = useChoices()
  const own = useId()
  const limited = setup.offers.filter(({ first }) => first)
  const used = Boolean(cart.when || cart.promotions || cart.billingCountry || Object.keys(cart.uses).length)
  const [more, setMore] = useState(false)
  const refused = bench?.quote.refused ?? []
  const known = setup.groups.find(({ name }) => name?.toLowerCase() === cart.group.toLowerCase())
  const asked = setup.groups.length > 0 || setup.coupons.length > 0 || cart.coupons !== ''
  const label = (field: string, text: string) => (
    <label htmlFor={`${own}-${field}`} className="font-cond text-soft">
      {text}
    </label>
  )
  const shown = more || used
  return (
    <div className="grid grid-cols-[4.5rem_minmax(0,1fr)] items-center gap-x-2 gap-y-1.5">
      {asked && (
        <>
          <span className="font-cond text-soft">Buyer</span>
          <span className="flex gap-1">
            {setup.groups.length > 0 && (
              <select
                className="field min-w-0 flex-1"
                aria-label="Customer group"
                value={known?.name ?? cart.group}
                onChange={(event) => setAddress({ group: event.target.value })}
              >
                <option value="">no group</option>
                {setup.groups.map(({ id, name }) => (
                  <option key={id} value={name}>
                    {name}
                  </option>
                ))}
                {cart.group && !known && <option value={cart.group}>{cart.group}</option>}
              </select>
            )}
            {(setup.coupons.length > 0 || cart.coupons) && (
              <input
                className="field w-24 min-w-0 flex-1"
                aria-label="Coupons"
                list={`${own}-codes`}
                placeholder="no coupon"
                autoComplete="off"
                value={cart.coupons}
                onChange={(event) => setAddress({ coupons: event.target.value })}
              />
            )}
            <datalist id={`${own}-codes`}>
              {setup.coupons.map(({ id, code }) => (
                <option key={id} value={code} />
              ))}
            </datalist>
          </span>
        </>
      )}
      {refused.map(({ field, code, reason }) => (
        <p key={`${field} ${code}`} className="col-span-2 text-ochre">
          {field === 'group' ? 'Group' : 'Coupon'} “{code}”{' '}
          {
            {
              unknown: 'is not in the register',
              off: 'is switched off',
              early: 'is not taken yet',
              late: 'is not taken any more',
            }[reason]
          }
          .
        </p>
      ))}
      {shown ? (
        <>
          {label('when', 'As if')}
          <span className="flex items-center gap-1">
            <input
              id={`${own}-when`}
              type="datetime-local"
              className="field min-w-0 flex-1"
              value={cart.when}
              title={cart.when ? `As if it were ${momentWords(cart.when)}` : 'As if it were now'}
              onChange={(event) => setAddress({ when: event.target.value })}
            />
            {cart.when && (
              <button type="button" className="quiet" onClick={() => setAddress({ when: '' })}>
                now
              </button>
            )}
          </span>
          {label('promotions', 'Promotion')}
          <input
            id={`${own}-promotions`}
            className="field w-full"
            placeholder="none"
            autoComplete="off"
            value={cart.promotions}
            onChange={(event) => setAddress({ promotions: event.target.value })}
          />
          {label('bill', 'Billed to')}
          <span className="flex gap-1">
            <select
              id={`${own}-bill`}
              className="field min-w-0 flex-1"
              value={cart.billingCountry}
              onChange={(event) => setAddress({ billingCountry: event.target.value })}
            >
              <option value="">not known</option>
              {(choices?.countries ?? []).map(({ code, name }) => (
                <option key={code} value={code}>
                  {name}
                </option>
              ))}
            </select>
            {cart.billingCountry && (
              <input
                className="field w-24"
                aria-label="Billing postcode"
                placeholder="postcode"
                value={cart.billingPostcode}
                onChange={(event) => setAddress({ billingPostcode: event.target.value })}
              />
            )}
          </span>
          {limited.map(({ id, name }) => (
            <label key={id} className="col-span-2 flex items-center justify-between gap-2">
              <span className="text-soft">Orders that used “{name}”</span>
              <input
                className="field w-20"
                inputMode="numeric"
                placeholder="0"
                value={cart.uses[id] ?? ''}
                onChange={(event) => {
                  const { [id]: _, ...rest } = cart.uses
                  const count = Number(event.target.value.replace(/\D/g, '').slice(0, 7))
                  setAddress({ uses: count ? { ...rest, [id]: count } : rest })
                }}
              />
            </label>
          ))}
        </>
      ) : (
        <button
          type="button"
          className="quiet col-start-2 justify-self-start px-0"
          onClick={() => setMore(true)}
        >
          More of the order
        </button>
      )}
    </div>
  )
}
