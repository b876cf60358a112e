/*
 * What delivery will cost, on a product's or a basket's page, for everybody who looks at it. See docs/embed.md.
 */
import {
  ASKING,
  WHOM,
  countryNames,
  define,
  element,
  Part,
  servedBy,
  sheet,
  type Address,
  type Cart,
  type Method,
  type Quote,
  type Served,
} from './frame'
import { ESTIMATE_WORDS, type EstimateWords } from './estimate-words'
import { inDialog, inTab } from './places'
import { besideOf, methodWords, priceOf, type MethodWords } from './methods'

const KEPT = 'gate-mile:address'
/** How many more of a product are tried, to tell when delivery becomes free. */
const MORE = 6

const SHEET = sheet(`
  form, ul { display: flex; flex-direction: column; gap: var(--gate-mile-gap, 0.5em); margin: 0; padding: 0; }
  .fields { display: flex; flex-wrap: wrap; gap: var(--gate-mile-gap, 0.5em); align-items: end; }
  label { display: flex; flex-direction: column; gap: 0.15em; }
  label.tick { flex-direction: row; align-items: center; gap: 0.4em; min-height: 24px; }
  select, input:not([type]), button { font: inherit; color: inherit; padding: 0 0.5em; height: 2.3em; box-sizing: border-box;
    border: 1px solid var(--gate-mile-border, #767676); background: Field; color: FieldText; max-width: 100%; }
  input:not([type]) { width: 8em; }
  li { display: flex; flex-wrap: wrap; justify-content: space-between; gap: 0 1em; list-style: none;
    border-top: 1px solid var(--gate-mile-border, #767676); padding: 0.3em 0; }
  .promise { flex-basis: 100%; font-size: 0.9em; }
  .price { font-weight: bold; color: var(--gate-mile-accent, inherit); }
  .answer { display: flow-root; min-height: var(--gate-mile-room, 11em); margin-top: var(--gate-mile-gap, 0.5em); }
  .when { margin: 0 0 0.3em; font-size: 0.9em; }
  dialog { max-width: 28em; }
  [role=tablist] { display: flex; gap: var(--gate-mile-gap, 0.5em); }
  [role=tab] { background: none; border-width: 0 0 3px; border-color: transparent; }
  [role=tab][aria-selected=true] { border-color: currentColor; font-weight: bold; }`)

interface Typed {
  country: string
  region: string
  postcode: string
  kept: boolean
}

class Estimate extends Part<EstimateWords> {
  static readonly properties = {
    sku: 'text',
    quantity: 'text',
    name: 'text',
    basket: 'value',
    ask: 'text',
    place: 'text',
    details: 'text',
    country: 'text',
    region: 'text',
    postcode: 'text',
    more: 'text',
    ...ASKING,
  } as const
  protected readonly dictionary = ESTIMATE_WORDS
  private readonly root: ShadowRoot
  private address: Typed = { country: '', postcode: '', region: '', kept: false }
  private later: Cart['lines'] | null = null
  private served = new Map<string, Served>()
  private asked = 0
  private shown = false
  /** Whether the answer wants a region of this country. */
  private wantsRegion = false
  /** Whether the answer says that countries could not be listed. */
  private unlisted = false
  private form!: HTMLFormElement
  private answer!: HTMLElement
  private country!: HTMLSelectElement
  private region!: HTMLSelectElement
  private regionLabel!: HTMLElement
  private postcode!: HTMLInputElement
  private kept!: HTMLInputElement
  private goods!: HTMLSelectElement
  private goodsLabel!: HTMLElement

  constructor(host: HTMLElement) {
    super(host)
    this.root = host.attachShadow({ mode: 'open' })
    this.root.adoptedStyleSheets = [SHEET]
  }

  protected override begin() {
    this.address = { country: '', region: '', postcode: '', kept: false, ...remembered() }
  }

  protected update(changed: ReadonlySet<string>) {
    const some = (...names: string[]) => names.some((name) => changed.has(name))
    // What the page says of the address takes the place of what it said before, not of what was typed.
    if (!this.address.kept && some('country', 'region', 'postcode'))
      for (const name of ['country', 'region', 'postcode'] as const)
        if (changed.has(name)) this.address[name] = this.at(name) ?? ''
    if (!this.form || some(...WHOM, 'place', 'details', 'country', 'region', 'postcode')) return this.build()
    this.again()
  }

  protected override cartChanged(cart: Cart) {
    this.later = cart.lines
    this.again()
  }

  private again() {
    this.goodsLabel.hidden = !this.both
    if (this.shown || this.at('ask') === 'open') void this.show()
  }

  private get methodWords(): MethodWords {
    return methodWords(this.locale)
  }

  /** Whether there is a product and a basket, so that the shopper has a choice. */
  private get both(): boolean {
    return Boolean(this.at('sku')) && this.basket.length > 0
  }

  private get basket(): Cart['lines'] {
    if (this.later) return this.later
    const found = this.value<Cart['lines']>('basket')
    return Array.isArray(found) ? found : []
  }

  private get units(): number {
    return Math.max(1, Math.round(Number(this.at('quantity'))) || 1)
  }

  /** What is asked about, with so many more of the product. */
  private lines(more = 0): Cart['lines'] {
    const sku = this.at('sku')
    const own = sku ? [{ sku, quantity: this.units + more }] : []
    const together = !sku || (this.both && this.goods.value === 'both')
    const units = new Map<string, number>()
    for (const line of together ? [...own, ...this.basket] : own)
      units.set(line.sku, (units.get(line.sku) ?? 0) + Number(line.quantity || 1))
    return [...units].map(([sku, quantity]) => ({ sku, quantity }))
  }

  private remember() {
    try {
      const { country, postcode, region, kept } = this.address
      if (kept) localStorage.setItem(KEPT, JSON.stringify({ country, postcode, region }))
      else localStorage.removeItem(KEPT)
    } catch {
      // Without storage it is typed again on the next page.
    }
  }

  private build() {
    const { words } = this
    const labelled = <Field extends HTMLElement>(label: string, field: Field) =>
      [element('label', { part: 'label' }, label, field), field] as const
    const [countryLabel, country] = labelled(
      words.country,
      element('select', { name: 'country', autocomplete: 'country', part: 'field' }),
    )
    const [regionLabel, region] = labelled(
      words.region,
      element('select', { name: 'region', autocomplete: 'address-level1', part: 'field' }),
    )
    const [postcodeLabel, postcode] = labelled(
      words.postcode,
      element('input', { name: 'postcode', autocomplete: 'postal-code', part: 'field' }),
    )
    const [goodsLabel, goods] = labelled(
      words.about,
      element(
        'select',
        { name: 'goods', part: 'field' },
        element('option', { value: 'alone' }, words.alone),
        element('option', { value: 'both' }, words.both),
      ),
    )
    const kept = element('input', { type: 'checkbox', name: 'kept' })
    Object.assign(this, { country, region, postcode, goods, kept, regionLabel, goodsLabel })
    regionLabel.hidden = true
    goodsLabel.hidden = !this.both
    this.form = element(
      'form',
      { part: 'form', 'aria-label': words.title },
      element(
        'div',
        { class: 'fields' },
        countryLabel,
        regionLabel,
        postcodeLabel,
        goodsLabel,
        element('button', { part: 'button' }, words.ask),
      ),
      element('label', { class: 'tick', part: 'label' }, kept, words.keep),
    )
    this.answer = element('div', { class: 'answer', role: 'status', part: 'answer' })
    // A country that is known can be asked for before it is known which others are served.
    country.append(element('option', { value: '' }, words.choose))
    if (this.address.country) {
      const name = countryNames(this.locale)(this.address.country)
      country.append(element('option', { value: this.address.country, selected: true }, name))
    }
    postcode.value = this.address.postcode
    kept.checked = this.address.kept
    this.form.addEventListener('submit', (event) => {
      event.preventDefault()
      void this.show()
    })
    this.form.addEventListener('change', ({ target }) => this.typed(target))
    const place = this.at('place')
    const parts = [this.form, this.answer]
    if (place === 'dialog') this.root.replaceChildren(...inDialog(parts, words))
    else if (place === 'tab')
      this.root.replaceChildren(...inTab(parts, [this.at('details') ?? words.details, words.tab]))
    else this.root.replaceChildren(...parts)
    void this.countries()
    this.again()
  }

  private typed(target: EventTarget | null) {
    this.address = {
      country: this.country.value,
      region: this.region.value,
      postcode: this.postcode.value.trim(),
      kept: this.kept.checked,
    }
    if (target === this.country) {
      this.wantsRegion = false
      this.regions()
    }
    this.remember()
    if (target === this.kept) return
    this.tell('address', { ...this.address })
    if (this.shown || this.at('ask') === 'open' || target === this.goods) void this.show()
  }

  /** Only countries to which something is sent can be chosen. */
  private async countries() {
    const { country } = this
    try {
      this.served = await servedBy(this.source, () => this.call('served'))
    } catch {
      this.unlisted = true
      return this.away(() => void this.countries())
    }
    if (country !== this.country) return
    if (this.unlisted) this.answer.replaceChildren()
    this.unlisted = false
    const names = countryNames(this.locale)
    const list = [...this.served.keys()].map((code) => [code, names(code)] as const)
    list.sort(([, one], [, other]) => one.localeCompare(other, this.locale))
    const chosen = country.value
    country.replaceChildren(
      element('option', { value: '' }, this.words.choose),
      ...list.map(([code, words]) => element('option', { value: code }, words)),
    )
    country.value = this.served.has(chosen) ? chosen : ''
    this.regions()
    if (chosen && !country.value) this.answer.replaceChildren()
    else if (this.shown && this.region.value) void this.show()
  }

  /** Regions are asked for where the answer wants one, or one is remembered. */
  private regions() {
    const { region } = this
    const one = this.served.get(this.country.value)
    const codes = Object.entries(one?.regions ?? {}).flatMap(([code, how]) => (how === 'none' ? [] : [code]))
    this.regionLabel.hidden = codes.length === 0 || !(this.wantsRegion || this.address.region)
    const before = region.value || this.address.region
    region.replaceChildren(
      element('option', { value: '' }, '–'),
      ...codes.map((code) => element('option', { value: code }, one?.names?.[code] ?? code)),
    )
    region.value = codes.includes(before) ? before : ''
    this.postcode.placeholder = one?.postcode ?? ''
  }

  private away(ask: () => void) {
    this.answer.replaceChildren(this.trouble(this.words.away, this.words.again, ask))
  }

  private cart(more = 0): Cart {
    const destination: Address = {
      country: this.country.value,
      postcode: this.postcode.value.trim() || null,
      region: this.region.value || null,
    }
    return { lines: this.lines(more), destination }
  }

  private async show() {
    if (!this.country.value || this.lines().length === 0) return
    this.shown = true
    const asked = ++this.asked
    if (!this.answer.hasChildNodes()) this.answer.replaceChildren(element('p', {}, this.words.waiting))
    this.answer.setAttribute('aria-busy', 'true')
    try {
      const quote = await this.call<Quote>('quotes', { cart: this.cart() })
      if (asked !== this.asked) return
      this.answer.replaceChildren(...this.told(quote))
      this.tell('estimate', quote)
      void this.more(quote, asked)
    } catch {
      // Nothing came, or nothing that can be read.
      if (asked === this.asked) this.away(() => void this.show())
    } finally {
      if (asked === this.asked) this.answer.removeAttribute('aria-busy')
    }
  }

  private told(quote: Quote): HTMLElement[] {
    const { words } = this
    const needs = quote.needs ?? []
    if (needs.includes('region')) {
      this.wantsRegion = true
      this.regions()
    }
    const nothing = (text: string) => [element('p', { part: 'nothing' }, text)]
    if (quote.status === 'nothing_ships' || quote.status === 'empty') return nothing(words.ships)
    if (quote.status === 'undetermined' && quote.methods.length === 0)
      return nothing(needs.includes('region') ? words.needsRegion : words.needs)
    if (quote.status !== 'priced') return nothing(quote.text || words.nothing)
    const moment = new Intl.DateTimeFormat(this.locale, { dateStyle: 'medium', timeStyle: 'short' })
    const mine = this.at('sku') && this.at('name')
    const when = `${words.when}, ${moment.format(new Date(quote.at))}:`
    return [
      element('p', { part: 'when', class: 'when' }, mine ? `${mine}. ${when}` : when),
      element('ul', { part: 'methods' }, ...quote.methods.map((one) => this.method(one, quote))),
      ...(quote.mileposts ?? []).map((one) =>
        element('p', { part: 'milepost', 'data-moment': one.moment }, this.filled(one, quote.currency)),
      ),
    ]
  }

  private method(method: Method, quote: Quote) {
    const money = (amount: string) => this.money(amount, quote.currency)
    const beside = besideOf(method, this.locale, money, this.methodWords)
    const price = priceOf(method.price, money, quote.zero, this.methodWords)
    return element(
      'li',
      { part: 'method', 'data-code': method.code },
      element('span', { part: 'name' }, method.name),
      element('span', { part: Number(method.price) === 0 ? 'price free' : 'price', class: 'price' }, price),
      beside ? element('span', { part: 'promise', class: 'promise' }, beside) : null,
    )
  }

  /** How many more of the product make delivery free: found by asking for them, whatever it is that makes it so. */
  private async more(quote: Quote, asked: number) {
    const free = ({ methods }: Pick<Quote, 'methods'>) =>
      methods.some(({ price, collection }) => Number(price) === 0 && !collection)
    if (this.at('more') === 'off' || !this.at('sku') || quote.status !== 'priced' || free(quote)) return
    const carts = Array.from({ length: MORE }, (_, at) => this.cart(at + 1))
    try {
      const { quotes } = await this.call<{ quotes: (Quote | { problem: unknown })[] }>('quotes/batch', {
        carts,
      })
      const units = quotes.findIndex((one) => 'methods' in one && free(one)) + 1
      if (asked !== this.asked || units === 0) return
      this.answer.append(element('p', { part: 'more' }, this.words.more(units)))
    } catch {
      // The prices stand there all the same.
    }
  }
}

function remembered(): Partial<Typed> {
  try {
    const kept: Partial<Typed> | null = JSON.parse(localStorage.getItem(KEPT) ?? 'null')
    if (!kept) return {}
    return {
      country: kept.country ?? '',
      postcode: kept.postcode ?? '',
      region: kept.region ?? '',
      kept: true,
    }
  } catch {
    return {}
  }
}

define('gate-mile-estimate', Estimate)
