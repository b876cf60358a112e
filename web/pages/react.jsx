import { StrictMode, useState } from 'react'
import { createRoot } from 'react-dom/client'

const { cart: FIRST, asks, through } = window.page

/** A checkout as a shop would write it with React 19: every part, with properties and attributes as they come. */
function Checkout() {
  const [quantity, setQuantity] = useState(1)
  const [shown, setShown] = useState(true)
  const [countries, setCountries] = useState(['GB', 'IE', 'BR'])
  const cart = { ...FIRST, lines: FIRST.lines.map((line) => ({ ...line, quantity })) }
  return (
    <>
      <button type="button" onClick={() => setQuantity(quantity + 4)}>
        More
      </button>
      <button type="button" onClick={() => setShown(!shown)}>
        Away and back
      </button>
      <button type="button" onClick={() => setCountries(['GB'])}>
        Fewer countries
      </button>
      <form method="post" action="/checkout/order">
        {shown && <gate-mile-choice name="delivery" required cart={cart} through={through} />}
        <button>Order</button>
      </form>
      <gate-mile-milepost page="cart" cart={cart} country="GB" {...asks} />
      <gate-mile-estimate
        sku="LOG-A4"
        name="Log book"
        quantity={quantity}
        basket={cart.lines}
        ask="open"
        country="GB"
        postcode="TR29 4ZZ"
        more="off"
        {...asks}
      />
      <gate-mile-address {...asks}>
        <label>
          Country
          <select autoComplete="country" defaultValue="GB">
            {countries.map((code) => (
              <option key={code} value={code}>
                {code}
              </option>
            ))}
          </select>
        </label>
      </gate-mile-address>
    </>
  )
}

createRoot(document.getElementById('shop')).render(
  <StrictMode>
    <Checkout />
  </StrictMode>,
)
