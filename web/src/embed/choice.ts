/*
 * The choice of delivery in a checkout: a field of the shop's own form. See docs/embed.md.
 */
import { ASKING, WHOM, define, element, Part, sheet, type Cart, type Method, type Quote } from './frame'
import { besideOf, methodWords, priceOf, type MethodWords } from './methods'
import { CHOICE_WORDS, type ChoiceWords } from './choice-words'

const SHEET = sheet(`
  fieldset { border: 0; margin: 0; padding: 0; min-width: 0; }
  legend { padding: 0; }
  label.method { display: grid; grid-template-columns: auto 1fr auto; gap: 0 0.6em; align-items: baseline;
    border-top: 1px solid var(--gate-mile-border, #767676); padding: 0.5em 0; cursor: pointer; }
  .beside { grid-column: 2 / -1; font-size: 0.9em; }
  .price { font-weight: bold; color: var(--gate-mile-accent, inherit); white-space: nowrap; }
  .mark { font-size: 0.85em; border: 1px solid var(--gate-mile-border, #767676); padding: 0 0.35em; margin-inline-start: 0.4em; }
  input { width: 1.1em; height: 1.1em; margin: 0; }
  select { font: inherit; color: FieldText; background: Field; padding: 0.35em 0.5em; max-width: 100%;
    border: 1px solid var(--gate-mile-border, #767676); }
  ul { list-style: none; margin: 0.5em 0 0; padding: 0; }
  [role=status]:not(:empty) { padding: 0.4em 0; font-weight: bold; }`)

/** What can be chosen: a method, or the cheapest of several that are one choice. */
interface Option {
  id: string
  name: string
  method: Method
}

interface Group {
  name: string
  methods: string[]
}

/** Milliseconds that pass at least between two times that it asks by itself, and at most. */
const LEAST = 30_000
const LONGEST = 600_000
const DAY = 86_400_000
/** Lines of a basket of which each is tried by itself. */
const PARTED = 8

class Choice extends Part<ChoiceWords> {
  static readonly form = true
  static readonly properties = {
    quote: 'value',
    cart: 'value',
    groups: 'value',
    shown: 'text',
    name: 'text',
    value: 'text',
    ...ASKING,
    unavailable: 'flag',
    apart: 'text',
    required: 'flag',
    disabled: 'flag',
  } as const

  /** As fields of forms have them. */
  static members(part: (element: HTMLElement) => Choice): PropertyDescriptorMap {
    const has = (get: (of: Choice) => unknown, set?: (of: Choice, value: unknown) => void) => ({
      configurable: true,
      enumerable: true,
      get(this: HTMLElement) {
        return get(part(this))
      },
      ...(set && {
        set(this: HTMLElement, value: unknown) {
          set(part(this), value)
        },
      }),
    })
    const does = (run: (of: Choice) => unknown) => ({
      configurable: true,
      value(this: HTMLElement) {
        return run(part(this))
      },
    })
    return {
      quote: has(
        (of) => of.told,
        (of, quote) => of.set('quote', 'value', quote),
      ),
      value: has(
        (of) => of.code,
        (of, code) => of.take(code ? String(code) : null),
      ),
      type: has(() => 'gate-mile-choice'),
      form: has((of) => of.internals.form),
      labels: has((of) => of.internals.labels),
      validity: has((of) => of.internals.validity),
      validationMessage: has((of) => of.internals.validationMessage),
      willValidate: has((of) => of.internals.willValidate),
      checkValidity: does((of) => of.internals.checkValidity()),
      reportValidity: does((of) => of.internals.reportValidity()),
    }
  }

  protected readonly dictionary = CHOICE_WORDS
  readonly internals: ElementInternals
  private readonly root: ShadowRoot
  private readonly said = element('p', { role: 'status', part: 'changed' })
  private readonly place = element('div')
  told: Quote | null = null
  private chosen: string | null = null
  private later: Cart | null = null
  private failed = false
  /** What is said of goods that keep the basket from being sent. */
  private apart: HTMLElement | null = null
  private latest = 0
  private timer = 0
  private pause = LEAST

  constructor(host: HTMLElement) {
    super(host)
    this.root = host.attachShadow({ mode: 'open', delegatesFocus: true })
    this.internals = host.attachInternals()
    this.root.adoptedStyleSheets = [SHEET]
    this.root.append(this.said, this.place)
  }

  protected override begin() {
    this.chosen ??= this.at('value')
  }

  protected override rest() {
    clearTimeout(this.timer)
  }

  protected update(changed: ReadonlySet<string>) {
    const some = (...names: string[]) => names.some((name) => changed.has(name))
    if (changed.has('cart')) this.later = null
    const given = this.value<Quote>('quote')
    if (given && changed.has('quote')) {
      this.receive(given)
      // One that the page has kept for too long.
      if (this.asks && Date.parse(given.holds_until) <= Date.now()) void this.ask()
    } else if (this.asks && some('cart', 'quote', ...WHOM)) void this.ask()
    else this.render()
  }

  protected override cartChanged(cart: Cart) {
    this.later = cart
    void this.ask()
  }

  /** Takes a quote. Its prices hold for a while; after that it asks again. */
  private receive(quote: Quote | null) {
    const before = this.told
    this.told = quote
    this.failed = false
    this.apart = null
    clearTimeout(this.timer)
    const left = quote ? Date.parse(quote.holds_until) - Date.now() : NaN
    if (this.asks && left < DAY) {
      // A promise that is short or over is no reason to ask again and again.
      this.pause = left < this.pause ? Math.min(this.pause * 2, LONGEST) : LEAST
      this.timer = window.setTimeout(() => void this.ask(), Math.max(left, this.pause))
    }
    this.render(before)
    if (quote) void this.part(quote, this.latest)
  }

  /**
   * Some goods of a basket that can't be sent may be all that is in the way: found by asking for each by itself, and for
   * the basket without those that nothing takes; where each could go alone, for the basket without one.
   */
  private async part(quote: Quote, asked: number) {
    const lines = this.cart?.lines ?? []
    const off = this.at('apart') === 'off' || !this.asks || quote.methods.length > 0
    if (off || quote.status !== 'nothing_available' || lines.length < 2 || lines.length > PARTED) return
    try {
      const alone = await this.offered(lines.map((line) => [line]))
      const held = lines.filter((_, at) => !alone[at])
      const left = held.length ? [held] : lines.map((line) => [line])
      const rests = left.map((some) => lines.filter((line) => !some.includes(line)))
      if (held.length === lines.length) return
      const found = await this.offered(rests)
      if (asked !== this.latest || !found.some(Boolean)) return
      const { words } = this
      const told = found.flatMap((method, at) => {
        if (!method) return []
        const goods = (left[at] ?? [])
          .map(({ sku, name }) => (typeof name === 'string' ? name : sku))
          .join(', ')
        return [element('li', {}, words.without(goods, method.name, this.price(method.price, quote)))]
      })
      this.apart = element(
        'div',
        { part: 'apart', role: 'status' },
        element('p', {}, words.held),
        element('ul', {}, ...told),
      )
      this.render()
    } catch {
      // The reason is shown already.
    }
  }

  /** The cheapest delivery of each of these baskets, undefined where there is none. */
  private async offered(baskets: Cart['lines'][]): Promise<(Method | undefined)[]> {
    const carts = baskets.map((lines) => ({ ...this.cart, lines }))
    const { quotes } = await this.call<{ quotes: (Quote | { problem: unknown })[] }>('quotes/batch', {
      carts,
    })
    return quotes.map((one) => {
      if (!('methods' in one)) return undefined
      const list = [...one.methods].sort((a, b) => Number(a.price) - Number(b.price))
      return list.find(({ collection }) => !collection) ?? list[0]
    })
  }

  /** The code of the method that is chosen. */
  get code(): string | null {
    return this.option?.method.code ?? null
  }

  /** Chooses by code, whether prices are there yet or not. */
  take(code: string | null) {
    this.chosen = code
    this.render()
  }

  private get name(): string {
    return this.at('name') || 'delivery'
  }

  override formReset() {
    this.choose(this.at('value'))
    this.render()
  }

  override formRestored(state: string) {
    this.take(state)
  }

  override formDisabled() {
    this.render()
  }

  private get asks(): boolean {
    return Boolean(this.cart && (this.key || this.at('through')))
  }

  private get cart(): Cart | null {
    return this.later ?? this.value<Cart>('cart')
  }

  private async ask() {
    if (!this.asks) return
    const asked = ++this.latest
    clearTimeout(this.timer)
    this.place.setAttribute('aria-busy', 'true')
    try {
      const quote = await this.call<Quote>('quotes', { cart: this.cart })
      if (asked === this.latest) this.receive(quote)
    } catch {
      if (asked === this.latest) this.away()
    }
    if (asked === this.latest) this.place.removeAttribute('aria-busy')
  }

  /** What there was stays; where there was nothing, it says so. Either way it can be asked once more. */
  private away() {
    this.failed = true
    this.render()
    this.tell('away', null)
  }

  private get methodWords(): MethodWords {
    return methodWords(this.locale)
  }

  private options(quote: Quote | null): Option[] {
    const groups = this.value<Group[]>('groups') ?? []
    const found = new Map<string, Option>()
    for (const method of quote?.methods ?? []) {
      const group = groups.find(({ methods }) => methods.includes(method.code))
      const id = group ? `group:${group.name}` : method.code
      const before = found.get(id)
      if (!before) found.set(id, { id, name: group?.name ?? method.name, method })
      else if (Number(method.price) < Number(before.method.price)) before.method = method
    }
    return [...found.values()]
  }

  private get option(): Option | undefined {
    return this.chosenOf(this.told)
  }

  private chosenOf(quote: Quote | null): Option | undefined {
    return this.options(quote).find(({ id, method }) => this.chosen === id || this.chosen === method.code)
  }

  private price(price: string, quote: Quote): string {
    return priceOf(price, (amount) => this.money(amount, quote.currency), quote.zero, this.methodWords)
  }

  /** Says what has changed for the shopper since the last prices. */
  private changes(before: Quote | null, now: Quote | null) {
    if (!before || !now) return
    const old = this.chosenOf(before)
    const list = this.options(now)
    const found = old && list.find(({ id }) => id === old.id)
    const { words } = this
    if (old && !found) this.said.textContent = words.gone(old.name)
    else if (old && found && old.method.price !== found.method.price)
      this.said.textContent = words.now(
        found.name,
        this.price(found.method.price, now),
        this.price(old.method.price, before),
      )
    else if (
      list.some(
        ({ id, method }) => this.options(before).find((one) => one.id === id)?.method.price !== method.price,
      )
    )
      this.said.textContent = words.others
    else return
    this.tell('changed', { before: old?.method ?? null, now: found?.method ?? null })
  }

  private render(before: Quote | null = null) {
    const quote = this.told
    this.said.textContent = ''
    this.changes(before, quote)
    if (this.failed) this.said.textContent = this.words.away
    const list = this.options(quote)
    if (list.length === 1 && !this.chosen) this.chosen = list[0]?.id ?? null
    // What was chosen before there are prices waits for them.
    if (quote && this.chosen && !this.option) this.chosen = null
    // Where the focus was it stays.
    const focused = (this.root.activeElement as HTMLInputElement | null)?.value
    const more = [this.apart, this.failed ? this.again() : null].filter((one) => one !== null)
    this.place.replaceChildren(...this.content(quote, list), ...more)
    if (focused !== undefined)
      this.place.querySelector<HTMLElement>(`[value="${CSS.escape(focused)}"], select`)?.focus()
    this.settle()
  }

  private again(): HTMLElement {
    const button = element('button', { type: 'button', part: 'again' }, this.words.again)
    button.addEventListener('click', () => void this.ask())
    return button
  }

  private content(quote: Quote | null, list: Option[]): HTMLElement[] {
    const { words } = this
    if (!quote && this.failed) return []
    if (!quote) return [element('p', { part: 'nothing' }, this.asks ? words.waiting : words.away)]
    const nothing: Partial<Record<Quote['status'], string>> = {
      nothing_ships: words.ships,
      empty: words.ships,
      undetermined: words.needs,
    }
    const options = list.length
      ? [this.at('shown') === 'menu' ? this.menu(quote, list) : this.list(quote, list)]
      : [element('p', { part: 'nothing' }, nothing[quote.status] ?? (quote.text || words.nothing))]
    return [...options, ...this.missing(quote)]
  }

  private beside(method: Method, quote: Quote): string {
    return besideOf(method, this.locale, (amount) => this.money(amount, quote.currency), this.methodWords)
  }

  private marks(method: Method): string[] {
    return (method.marks ?? []).map((mark) => this.methodWords[mark])
  }

  private list(quote: Quote, list: Option[]) {
    const rows = list.map(({ id, name, method }) => {
      const radio = element('input', { type: 'radio', name: 'method', value: id, part: 'radio' })
      radio.checked = this.option?.id === id
      radio.disabled = this.on('disabled')
      radio.addEventListener('change', () => this.choose(id))
      const beside = this.beside(method, quote)
      return element(
        'label',
        { class: 'method', part: 'method', 'data-code': method.code },
        radio,
        element(
          'span',
          { part: 'name' },
          name,
          ...this.marks(method).map((mark) => element('span', { class: 'mark', part: 'mark' }, mark)),
        ),
        element(
          'span',
          { class: 'price', part: Number(method.price) === 0 ? 'price free' : 'price' },
          this.price(method.price, quote),
        ),
        beside ? element('span', { class: 'beside', part: 'promise' }, beside) : null,
      )
    })
    return element(
      'fieldset',
      { part: 'methods' },
      element('legend', { part: 'legend' }, this.words.choose),
      ...rows,
    )
  }

  private menu(quote: Quote, list: Option[]) {
    const select = element(
      'select',
      { part: 'field' },
      element('option', { value: '' }, this.words.pick),
      ...list.map(({ id, name, method }) =>
        element(
          'option',
          { value: id },
          `${[name, ...this.marks(method)].join(', ')}: ${this.price(method.price, quote)}`,
        ),
      ),
    )
    const beside = element('span', { class: 'beside', part: 'promise' })
    const shown = () => (beside.textContent = this.option ? this.beside(this.option.method, quote) : '')
    select.value = this.option?.id ?? ''
    select.disabled = this.on('disabled')
    select.addEventListener('change', () => {
      this.choose(select.value || null)
      shown()
    })
    shown()
    return element(
      'div',
      { part: 'methods' },
      element('label', { part: 'legend' }, `${this.words.choose} `, select),
      ' ',
      beside,
    )
  }

  /** Methods that don't take this basket, and why, where the shop wants it told. */
  private missing(quote: Quote): HTMLElement[] {
    if (!this.on('unavailable') || !quote.unavailable?.length) return []
    const { words } = this
    return [
      element(
        'ul',
        { part: 'unavailable', 'aria-label': words.unavailable },
        ...quote.unavailable.map(({ name, causes }) => {
          const why = causes.map((code) => words.causes[code]).find(Boolean)
          return element('li', {}, `${name}: ${why ?? words.causes.other}`)
        }),
      ),
    ]
  }

  private choose(id: string | null) {
    this.chosen = id
    this.settle()
    this.tell('choice', this.option?.method ?? null)
    this.host.dispatchEvent(new Event('input', { bubbles: true, composed: true }))
    this.host.dispatchEvent(new Event('change', { bubbles: true }))
  }

  /** What the form sends: the method's code, and the quote to order with. */
  private settle() {
    const { option, told } = this
    // What stands inside for pages without scripts stays there, and is not sent.
    this.host
      .querySelectorAll<HTMLInputElement | HTMLSelectElement | HTMLButtonElement>('input, select, button')
      .forEach((field) => (field.disabled = true))
    const data = new FormData()
    if (option) data.append(this.name, option.method.code)
    if (told?.quote) data.append(`${this.name}-quote`, told.quote)
    this.internals.setFormValue(data, option?.method.code ?? null)
    const anchor = this.place.querySelector<HTMLElement>('input, select, button') ?? this.place
    if (this.on('required') && !option)
      this.internals.setValidity({ valueMissing: true }, this.words.pick, anchor)
    else this.internals.setValidity({})
  }
}

define('gate-mile-choice', Choice)
