import { useId } from 'react'
import { useChoices, useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import { formatsOf } from '../ui/format'
import { momentWords } from '../ui/moment'
import { useBenchCart } from './cart'
import { useBenchResult } from './result'

/** Groups and coupons that the bench names and the shop does not take. */
export function Refusals() {
  const { bench } = useBenchResult()
  return (bench?.quote.refused ?? []).map(({ field, code, reason }) => (
    <p key={`${field} ${code}`} className="text-ochre">
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
  ))
}

/** Who buys, with what, and when: the bench can be any group, any coupon, any moment. */
export function Shopper() {
  const { setup } = useWorkshop()
  const { cart, setAddress } = useBenchCart()
  const { data: choices } = useChoices()
  const own = useId()
  const { problemAt } = useBenchResult()
  const offOrder = problemAt('/cart/order_discount')
  const formats = formatsOf(setup.store!)
  const limited = setup.offers.filter(({ first }) => first)
  const known = setup.groups.find(({ name }) => name?.toLowerCase() === cart.group.toLowerCase())
  const label = (field: string, text: string) => (
    <label htmlFor={`${own}-${field}`} className="font-cond text-soft">
      {text}
    </label>
  )
  return (
    <>
      {(setup.groups.length > 0 || cart.group) && (
        <>
          {label('group', 'Group')}
          <select
            id={`${own}-group`}
            className="field min-w-0"
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
        </>
      )}
      {label('coupons', 'Coupons')}
      <span>
        <input
          id={`${own}-coupons`}
          className="field w-full"
          list={`${own}-codes`}
          placeholder="none"
          autoComplete="off"
          value={cart.coupons}
          onChange={(event) => setAddress({ coupons: event.target.value })}
        />
        <datalist id={`${own}-codes`}>
          {setup.coupons.map(({ id, code }) => (
            <option key={id} value={code} />
          ))}
        </datalist>
      </span>
      {label('off', 'Off the order')}
      <span className="flex flex-col">
        <span className="flex items-center gap-1.5">
          <span aria-hidden className="text-soft">
            {formats.symbol}
          </span>
          <input
            id={`${own}-off`}
            className="field w-20"
            aria-label={`Off the whole order, ${formats.symbol}`}
            aria-invalid={offOrder ? true : undefined}
            placeholder="nothing"
            inputMode="decimal"
            value={cart.discount}
            onChange={(event) => setAddress({ discount: event.target.value })}
          />
        </span>
        {offOrder && <FieldError>{offOrder}</FieldError>}
      </span>
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
  )
}
