// From a cart to an order. Takes the address of Gate Mile and a key: http://127.0.0.1:4180 gmk_…
import { GateMileCheckout, Refused, type Cart } from './gate-mile-checkout.ts'

const [address, key] = process.argv.slice(2) as [string, string]
const door = new GateMileCheckout(address, key)
const cart: Cart = {
  lines: [{ sku: 'LOG-A4', quantity: 2 }],
  destination: { country: 'GB', postcode: 'TR29 4ZZ' },
}

const quote = await door.quote(cart)
for (const { code, price } of quote.methods) console.log(`${code}: ${price} ${quote.currency}`)

try {
  const order = await door.order('ts-1', quote.quote!, quote.methods[0]!.code)
  console.log(`Order ${order.order} pays ${order.price} by release ${order.release}`)
} catch (error) {
  if (!(error instanceof Refused && error.ranOut)) throw error
  console.log(`The price was ${error.problem.promised} and is ${error.problem.now} now: ask the shopper`)
}
console.log(`${(await door.close('ts-1', 'cancelled')).order} is cancelled`)
