<!-- The same with Svelte 5: it sets a property where the element has a setter. -->
<script>
  const { cart: first, asks, through } = window.page
  let quantity = $state(1)
  let shown = $state(true)
  let countries = $state(['GB', 'IE', 'BR'])
  const cart = $derived({ ...first, lines: first.lines.map((line) => ({ ...line, quantity })) })
</script>

<button type="button" onclick={() => (quantity += 4)}>More</button>
<button type="button" onclick={() => (shown = !shown)}>Away and back</button>
<button type="button" onclick={() => (countries = ['GB'])}>Fewer countries</button>
<form method="post" action="/checkout/order">
  {#if shown}
    <gate-mile-choice name="delivery" required {cart} {through}></gate-mile-choice>
  {/if}
  <button>Order</button>
</form>
<gate-mile-milepost page="cart" {cart} country="GB" {...asks}></gate-mile-milepost>
<gate-mile-estimate
  sku="LOG-A4"
  name="Log book"
  {quantity}
  basket={cart.lines}
  ask="open"
  country="GB"
  postcode="TR29 4ZZ"
  more="off"
  {...asks}
></gate-mile-estimate>
<gate-mile-address {...asks}>
  <label>
    Country
    <select autocomplete="country">
      {#each countries as code (code)}
        <option value={code}>{code}</option>
      {/each}
    </select>
  </label>
</gate-mile-address>
