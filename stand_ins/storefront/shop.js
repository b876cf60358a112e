// The shop's own script: it keeps the basket and tells the milepost of every change.
const units = new Map()
const field = (id) => document.getElementById(id).value.trim()

function tell() {
  const lines = [...units].filter(([, quantity]) => quantity > 0).map(([sku, quantity]) => ({ sku, quantity }))
  const postcode = field('postcode')
  const cart = {
    lines,
    group: field('group') || null,
    destination: postcode ? { country: 'GB', postcode } : {},
  }
  document.dispatchEvent(new CustomEvent('gate-mile:cart', { detail: cart }))
}

for (const row of document.querySelectorAll('[data-sku]')) {
  row.addEventListener('click', ({ target }) => {
    if (!target.dataset.by) return
    const quantity = Math.max(0, (units.get(row.dataset.sku) ?? 0) + Number(target.dataset.by))
    units.set(row.dataset.sku, quantity)
    row.querySelector('output').textContent = quantity
    tell()
  })
}
for (const id of ['group', 'postcode']) document.getElementById(id).addEventListener('change', tell)
