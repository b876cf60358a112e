import { createApp, h, ref } from 'vue'

const { cart: FIRST, asks, through } = window.page

/** The same with Vue 3, by render functions: it sets a property where the element has one. */
createApp({
  setup() {
    const quantity = ref(1)
    const shown = ref(true)
    const countries = ref(['GB', 'IE', 'BR'])
    return () => {
      const cart = { ...FIRST, lines: FIRST.lines.map((line) => ({ ...line, quantity: quantity.value })) }
      return [
        h('button', { type: 'button', onClick: () => (quantity.value += 4) }, 'More'),
        h('button', { type: 'button', onClick: () => (shown.value = !shown.value) }, 'Away and back'),
        h('button', { type: 'button', onClick: () => (countries.value = ['GB']) }, 'Fewer countries'),
        h('form', { method: 'post', action: '/checkout/order' }, [
          shown.value && h('gate-mile-choice', { name: 'delivery', required: '', cart, through }),
          h('button', {}, 'Order'),
        ]),
        h('gate-mile-milepost', { page: 'cart', cart, country: 'GB', ...asks }),
        h('gate-mile-estimate', {
          sku: 'LOG-A4',
          name: 'Log book',
          quantity: quantity.value,
          basket: cart.lines,
          ask: 'open',
          country: 'GB',
          postcode: 'TR29 4ZZ',
          more: 'off',
          ...asks,
        }),
        h('gate-mile-address', asks, [
          h('label', {}, [
            'Country',
            h(
              'select',
              { autocomplete: 'country' },
              countries.value.map((code) => h('option', { key: code, value: code }, code)),
            ),
          ]),
        ]),
      ]
    }
  },
}).mount('#shop')
