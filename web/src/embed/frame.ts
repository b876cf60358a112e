import type { components } from '../api/contract.gen'

type Schemas = components['schemas']
export type Quote = Schemas['CheckoutQuote']
export type Method = Schemas['CheckoutMethod']
export type Said = Schemas['MilepostSaid']
export type Served = Schemas['CheckoutServed']['countries'][number]
export type Address = Partial<Record<'country' | 'region' | 'postcode', string | null>> & { lines?: string[] }
/** A basket as the checkout door takes it; a page may name goods, an address and coupons. */
export interface Cart {
  lines: { sku: string; quantity: number; [more: string]: unknown }[]
  destination?: Address
  [more: string]: unknown
}

/** Milliseconds after which an answer is not waited for any longer. */
const PATIENCE = 8000

/** The script that is running: parts are loaded from the server that they ask. */
const ORIGIN = new URL(
  document.currentScript instanceof HTMLScriptElement ? document.currentScript.src : location.href,
).origin

type Attributes = Record<string, string | number | boolean | null | undefined>

/** An element with its attributes and what is in it; texts stay texts. */
export function element<Name extends keyof HTMLElementTagNameMap>(
  name: Name,
  attributes: Attributes = {},
  ...children: (Node | string | null | false | undefined)[]
): HTMLElementTagNameMap[Name] {
  const made = document.createElement(name)
  for (const [key, value] of Object.entries(attributes))
    if (value !== null && value !== undefined && value !== false)
      made.setAttribute(key, value === true ? '' : String(value))
  made.append(
    ...children.filter(
      (child): child is Node | string => child !== null && child !== false && child !== undefined,
    ),
  )
  return made
}

export function sheet(css: string): CSSStyleSheet {
  const made = new CSSStyleSheet()
  made.replaceSync(`:host { display: block; } :host([hidden]), [hidden] { display: none !important; }
    :focus-visible { outline: 2px solid currentColor; outline-offset: 2px; } ${css}`)
  return made
}

/** What the document says when the basket changes: `new CustomEvent('gate-mile:cart', { detail: cart })`. */
const CART = 'gate-mile:cart'

/** How an attribute is had as a property: as its text, as yes or no, or as a value that stands in it as JSON. */
export type Properties = Readonly<Record<string, 'text' | 'flag' | 'value'>>

/** Methods that elements of forms have (HTML Standard, form-associated custom elements). */
interface OfForms {
  formReset?(): void
  formRestored?(state: string): void
  formDisabled?(disabled: boolean): void
}

/** Whom a part asks. React and Vue keep `key` for themselves: there it is called `public-key`. */
export const ASKING = { key: 'text', 'public-key': 'text', server: 'text', through: 'text' } as const
export const WHOM = Object.keys(ASKING)

export interface PartKind<P extends Part<unknown>> {
  new (host: HTMLElement): P
  readonly properties: Properties
  readonly form?: boolean
  /** Further properties and methods of its elements; they may replace one that an attribute has. */
  readonly members?: (part: (element: HTMLElement) => P) => PropertyDescriptorMap
}

/**
 * What stands behind an element: the element itself has nothing but its attributes, as properties too, so that no
 * framework can write over what is within.
 */
export abstract class Part<Words> implements OfForms {
  protected abstract readonly dictionary: { en: Words } & Record<string, Words>
  private readonly values = new Map<string, unknown>()
  private readonly changed = new Set<string>()
  private begun = false
  private connected = false
  private waiting = false
  private readonly heard = (event: Event) => {
    if (event instanceof CustomEvent) this.cartChanged?.(event.detail)
  }

  protected readonly host: HTMLElement

  constructor(host: HTMLElement) {
    this.host = host
  }

  formReset?(): void
  formRestored?(state: string): void
  formDisabled?(disabled: boolean): void

  /** Called once, when it stands on a page for the first time. */
  protected begin?(): void
  /** Called when it is taken from the page; it may come back, as it was. */
  protected rest?(): void
  /** Called after attributes or properties have changed, once for all that changed together; first of all for all. */
  protected abstract update(changed: ReadonlySet<string>): void
  protected cartChanged?(cart: Cart): void

  enter(names: readonly string[]) {
    this.connected = true
    document.addEventListener(CART, this.heard)
    if (this.begun) return this.soon()
    this.begun = true
    this.begin?.()
    names.forEach((name) => this.changed.add(name))
    this.soon()
  }

  leave() {
    this.connected = false
    document.removeEventListener(CART, this.heard)
    this.rest?.()
  }

  hear(name: string) {
    this.changed.add(name)
    this.soon()
  }

  /** An attribute was written: what was given as a property before counts no more. */
  written(name: string) {
    this.values.delete(name)
    this.hear(name)
  }

  get(name: string, kind: Properties[string]): unknown {
    if (kind === 'flag') return this.on(name)
    return kind === 'value' ? this.value(name) : (this.at(name) ?? '')
  }

  set(name: string, kind: Properties[string], value: unknown) {
    if (kind === 'flag') this.host.toggleAttribute(name, value === '' || Boolean(value))
    else if (kind === 'text' || typeof value === 'string') {
      if (value === null || value === undefined) this.host.removeAttribute(name)
      else this.host.setAttribute(name, String(value))
    } else {
      this.values.set(name, value)
      this.hear(name)
    }
  }

  private soon() {
    if (this.waiting || !this.connected || this.changed.size === 0) return
    this.waiting = true
    queueMicrotask(() => {
      this.waiting = false
      if (!this.connected) return
      const changed = new Set(this.changed)
      this.changed.clear()
      this.update(changed)
    })
  }

  protected at(name: string): string | null {
    return this.host.getAttribute(name)
  }

  protected on(name: string): boolean {
    return this.host.hasAttribute(name)
  }

  /** What was given as a property, or stands as JSON in the attribute; what can't be read counts as not there. */
  protected value<Value>(name: string): Value | null {
    if (this.values.has(name)) return (this.values.get(name) ?? null) as Value | null
    try {
      return JSON.parse(this.at(name) || 'null')
    } catch {
      return null
    }
  }

  protected get words(): Words {
    const [language = 'en'] = (this.locale ?? navigator.language).toLowerCase().split('-')
    return this.dictionary[language] ?? this.dictionary.en
  }

  /** The language of the page, as it is written in attributes or as systems write it ("en_US"). */
  protected get locale(): string | undefined {
    const said = this.host.closest<HTMLElement>('[lang]')?.lang.trim().replaceAll('_', '-')
    try {
      return said ? Intl.getCanonicalLocales(said.replace(/\..*$/, ''))[0] : undefined
    } catch {
      return undefined
    }
  }

  /** The page's key to the checkout door. */
  protected get key(): string | null {
    return this.at('public-key') ?? this.at('key')
  }

  /** Whom it asks, for what several parts of a page want to know only once. */
  protected get source(): string {
    return this.at('through') ?? `${this.at('server') || ORIGIN} ${this.key}`
  }

  /** Asks the checkout door with the page's key, or the shop's own server, which asks it. */
  protected async call<Answer>(path: string, body?: unknown): Promise<Answer> {
    const through = this.at('through')
    const { key } = this
    return fetched<Answer>(
      through ? `${through}/${path}` : `${this.at('server') || ORIGIN}/checkout/v1/${path}`,
      body,
      through ? 'same-origin' : 'omit',
      through || !key ? {} : { authorization: `Bearer ${key}` },
    )
  }

  /** Mileposts are told to the pages of listed shops without a key too. */
  protected async mileposts(cart: Cart): Promise<{ currency: string; mileposts?: Said[] }> {
    if (this.at('through') || this.key) return this.call<Quote>('quotes', { cart })
    return fetched(`${this.at('server') || ORIGIN}/public/mileposts`, cart, 'omit', {})
  }

  protected tell(name: string, detail: unknown) {
    this.host.dispatchEvent(new CustomEvent(`gate-mile:${name}`, { bubbles: true, composed: true, detail }))
  }

  /** An amount as it is read; with the currency's code where the browser does not know it. */
  protected money(amount: string, currency: string): string {
    try {
      return new Intl.NumberFormat(this.locale, { style: 'currency', currency }).format(Number(amount))
    } catch {
      return `${amount} ${currency}`
    }
  }

  /** A milepost's text, with what its placeholders stand for. */
  protected filled({ text, values }: Said, currency: string): string {
    return text.replace(/\{\s*(\w+)\s*\}/g, (_, name: string) => {
      const value = values[name]
      return value ? (value.kind === 'money' ? this.money(value.value, currency) : value.value) : ''
    })
  }

  /** Says that there was no answer, with a button to ask again. */
  protected trouble(text: string, again: string, ask: () => void): HTMLElement {
    const button = element('button', { type: 'button', part: 'again' }, again)
    button.addEventListener('click', ask)
    return element('p', { part: 'trouble' }, text, ' ', button)
  }
}

async function fetched<Answer>(
  address: string,
  body: unknown,
  credentials: RequestCredentials,
  headers: Record<string, string>,
): Promise<Answer> {
  const response = await fetch(address, {
    method: body === undefined ? 'GET' : 'POST',
    credentials,
    signal: AbortSignal.timeout(PATIENCE),
    headers: { ...headers, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  })
  if (!response.ok) throw new Error(String(response.status))
  return response.json()
}

type Countries = Promise<{ countries: Served[] }>

/** Each part is a script of its own: what all of them want to know lies where all of them look. */
const SERVED = Symbol.for('gate-mile:served')
const page = globalThis as { [SERVED]?: Map<string, Countries> }

/** Countries to which something is sent, asked for once on a page. */
export async function servedBy(source: string, ask: () => Countries): Promise<Map<string, Served>> {
  const known = (page[SERVED] ??= new Map())
  const asked = known.get(source) ?? ask()
  known.set(source, asked)
  try {
    const { countries } = await asked
    return new Map(countries.filter((one) => one.served !== 'none').map((one) => [one.country, one]))
  } catch (error) {
    if (known.get(source) === asked) known.delete(source)
    throw error
  }
}

export function countryNames(locale: string | undefined): (code: string) => string {
  const names = new Intl.DisplayNames([locale ?? 'en'], { type: 'region' })
  return (code) => {
    try {
      return names.of(code) ?? code
    } catch {
      return code
    }
  }
}

/** "public-key" is the property publicKey. */
const propertyOf = (attribute: string) =>
  attribute.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase())

/**
 * Defines an element that shows a part. Its attributes and properties reflect each other and may come in any order, before
 * it is defined too, as the HTML Standard and the practice for custom elements have it.
 */
export function define<P extends Part<unknown>>(name: string, kind: PartKind<P>) {
  if (customElements.get(name)) return
  const names = Object.keys(kind.properties)
  class Shell extends HTMLElement {
    static readonly formAssociated = kind.form ?? false
    static readonly observedAttributes = names
    readonly #part: P

    constructor() {
      super()
      this.#part = new kind(this)
    }

    static part(element: HTMLElement): P {
      if (!(element instanceof Shell)) throw new TypeError('Illegal invocation')
      return element.#part
    }

    connectedCallback() {
      // What was given before the element was defined stands on it itself, and hides its properties.
      for (const name of names)
        if (Object.hasOwn(this, propertyOf(name))) {
          const given: unknown = Reflect.get(this, propertyOf(name))
          Reflect.deleteProperty(this, propertyOf(name))
          Reflect.set(this, propertyOf(name), given)
        }
      this.#part.enter(names)
    }

    disconnectedCallback() {
      this.#part.leave()
    }

    attributeChangedCallback(name: string, before: string | null, now: string | null) {
      if (before !== now) this.#part.written(name)
    }

    formResetCallback() {
      this.#part.formReset?.()
    }

    formStateRestoreCallback(state: unknown) {
      if (typeof state === 'string') this.#part.formRestored?.(state)
    }

    formDisabledCallback(disabled: boolean) {
      this.#part.formDisabled?.(disabled)
    }
  }
  for (const [attribute, how] of Object.entries(kind.properties))
    Object.defineProperty(Shell.prototype, propertyOf(attribute), {
      configurable: true,
      enumerable: true,
      get(this: Shell) {
        return Shell.part(this).get(attribute, how)
      },
      set(this: Shell, value: unknown) {
        Shell.part(this).set(attribute, how, value)
      },
    })
  if (kind.members) Object.defineProperties(Shell.prototype, kind.members(Shell.part))
  customElements.define(name, Shell)
}
