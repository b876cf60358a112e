const { cart: first, asks: said, through } = window.page
const asks = { publicKey: said['public-key'], server: said.server }
const shop = document.getElementById('shop')
let quantity = 1

/** The same without any: elements are made before their parts are defined, and given what they need in any order. */
const made = (name, properties, ...children) => {
  const element = Object.assign(document.createElement(name), properties)
  element.append(...children)
  return element
}
const cart = () => ({ ...first, lines: first.lines.map((line) => ({ ...line, quantity })) })
const choice = made('gate-mile-choice', {
  cart: cart(),
  required: true,
  name: 'delivery',
  through,
})
const milepost = made('gate-mile-milepost', {
  cart: cart(),
  page: 'cart',
  country: 'GB',
  ...asks,
})
const estimate = made('gate-mile-estimate', {
  more: 'off',
  basket: cart().lines,
  quantity,
  name: 'Log book',
  sku: 'LOG-A4',
  country: 'GB',
  postcode: 'TR29 4ZZ',
  ask: 'open',
  ...asks,
})
const options = ['GB', 'IE', 'BR'].map((code) => made('option', { value: code }, code))
const country = made('select', { autocomplete: 'country' }, ...options)
const order = made('button', {}, 'Order')
const form = made('form', { method: 'post', action: '/checkout/order' }, choice, order)

shop.append(
  made(
    'button',
    {
      type: 'button',
      onclick: () => {
        quantity += 4
        Object.assign(choice, { cart: cart() })
        Object.assign(milepost, { cart: cart() })
        Object.assign(estimate, { basket: cart().lines, quantity })
      },
    },
    'More',
  ),
  made(
    'button',
    { type: 'button', onclick: () => (choice.isConnected ? choice.remove() : form.prepend(choice)) },
    'Away and back',
  ),
  made(
    'button',
    { type: 'button', onclick: () => options.slice(1).forEach((one) => country.removeChild(one)) },
    'Fewer countries',
  ),
  form,
  milepost,
  estimate,
  made('gate-mile-address', { ...asks }, made('label', {}, 'Country', country)),
)
