/*
 * Shows how far a cart is from an offer. On a shop's page:
 *
 *   <script src="https://gate.example/embed/milepost.js" data-page="cart" data-cart='{"lines":[…]}'></script>
 *
 * The message stands where the tag stands. data-page says what kind of page it is, data-offer (optional) names one offer,
 * data-cart holds the cart as it is when the page is loaded. Later carts are told by an event:
 *
 *   document.dispatchEvent(new CustomEvent('gate-mile:cart', { detail: cart }))
 *
 * Texts are shown as text. The look is the shop's own: style .gate-mile-milepost, which has the moment (before, away,
 * nearly, reached, not_for_you) in data-moment. No cookies; a closed message stays closed for the visit.
 */
;(() => {
  const tag = document.currentScript
  const server = new URL(tag.src).origin
  const page = tag.dataset.page || ''
  const place = document.createElement('div')
  place.className = 'gate-mile-milepost'
  place.setAttribute('role', 'status')
  tag.after(place)
  let latest = 0

  const closedKey = (offer) => `gate-mile:closed:${offer}`
  const isClosed = (offer) => {
    try {
      return sessionStorage.getItem(closedKey(offer)) !== null
    } catch {
      return false
    }
  }

  function written({ kind, value }, currency) {
    if (kind !== 'money') return value
    return new Intl.NumberFormat(document.documentElement.lang || undefined, {
      style: 'currency',
      currency,
    }).format(value)
  }

  function textOf({ text, values }, currency) {
    return text.replace(/\{\s*(\w+)\s*\}/g, (_, name) =>
      values[name] ? written(values[name], currency) : '',
    )
  }

  function close(offer) {
    try {
      sessionStorage.setItem(closedKey(offer), '')
    } catch {
      // Without storage it comes back on the next page.
    }
    place.replaceChildren()
    delete place.dataset.moment
  }

  function render(milepost, currency) {
    const text = textOf(milepost, currency)
    const line = document.createElement(milepost.link ? 'a' : 'span')
    line.textContent = text
    if (milepost.link) line.href = milepost.link
    const parts = [line]
    if (milepost.closable) {
      const button = document.createElement('button')
      button.type = 'button'
      button.textContent = '×'
      button.setAttribute('aria-label', `Close: ${text}`)
      button.addEventListener('click', () => close(milepost.offer))
      parts.push(button)
    }
    place.dataset.moment = milepost.moment
    place.replaceChildren(...parts)
  }

  async function show(cart) {
    const asked = ++latest
    let answer = null
    try {
      const response = await fetch(`${server}/public/mileposts`, {
        method: 'POST',
        credentials: 'omit',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(cart),
      })
      if (response.ok) answer = await response.json()
    } catch {
      // A shop's page goes on without its milepost.
    }
    if (asked !== latest) return
    const milepost = (answer?.mileposts ?? []).find(
      ({ offer, pages }) =>
        (!tag.dataset.offer || tag.dataset.offer === offer) &&
        (pages.length === 0 || pages.includes(page)) &&
        !isClosed(offer),
    )
    if (milepost) render(milepost, answer.currency)
    else {
      delete place.dataset.moment
      place.replaceChildren()
    }
  }

  document.addEventListener('gate-mile:cart', (event) => void show(event.detail))
  if (tag.dataset.cart) void show(JSON.parse(tag.dataset.cart))
})()
