import { useId } from 'react'
import { useWorkshop } from '../edits/workshop'
import { useChoices } from '../setup/queries'
import { FieldError } from '../ui/field-error'
import { formatsOf } from '../ui/format'
import { momentWords } from '../ui/moment'
import { useBenchCart } from '../cart/cart'
import { useBenchResult } from '../cart/result'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

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
  const formats = formatsOf(setup.store)
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
          <Select
            label="Customer group"
            id={`${own}-group`}
            className="min-w-0"
            value={known?.name ?? cart.group}
            choices={[
              ['', 'no group'],
              ...setup.groups.map(({ name }) => [name, name] as const),
              cart.group !== '' && !known && [cart.group, cart.group],
            ]}
            choose={(value) => setAddress({ group: value })}
          />
        </>
      )}
      {label('coupons', 'Coupons')}
      <span>
        <Input
          id={`${own}-coupons`}
          className="w-full"
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
          <Input
            id={`${own}-off`}
            className="w-20"
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
        <Input
          id={`${own}-when`}
          type="datetime-local"
          className="min-w-0 flex-1"
          value={cart.when}
          title={cart.when ? `As if it were ${momentWords(cart.when)}` : 'As if it were now'}
          onChange={(event) => setAddress({ when: event.target.value })}
        />
        {cart.when && (
          <Button look="quiet" onClick={() => setAddress({ when: '' })}>
            now
          </Button>
        )}
      </span>
      {label('promotions', 'Promotion')}
      <Input
        id={`${own}-promotions`}
        className="w-full"
        placeholder="none"
        autoComplete="off"
        value={cart.promotions}
        onChange={(event) => setAddress({ promotions: event.target.value })}
      />
      {label('bill', 'Billed to')}
      <span className="flex gap-1">
        <Select
          label="Billed to"
          id={`${own}-bill`}
          className="min-w-0 flex-1"
          value={cart.billingCountry}
          choices={[
            ['', 'not known'],
            ...(choices?.countries ?? []).map(({ code, name }) => [code, name] as const),
          ]}
          choose={(value) => setAddress({ billingCountry: value })}
        />
        {cart.billingCountry && (
          <Input
            className="w-24"
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
          <Input
            className="w-20"
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
