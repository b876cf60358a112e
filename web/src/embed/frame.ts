import type { components } from '../api/contract.gen'

type Schemas = components['schemas']
export type Quote = Schemas['CheckoutQuote']
export type Method = Schemas['CheckoutMethod']
export type Said = Schemas['MilepostSaid']
export type Served = Schemas['CheckoutServed']['countries'][number]
export type Address = Partial<Record<'country' | 'region' | 'postcode', string | null>> & { lines?: string[] }
/** A basket as the checkout door takes it; a page may name goods, an address and coupons. */
export interface Cart {
  lines: { sku: string; quantity: number }[]
  destination?: Address
  [more: string]: unknown
}

/** Milliseconds after which an answer is not waited for any longer. */
const PATIENCE = 8000

/** The script that is running: parts are loaded from the server that they ask. */
const ORIGIN = new URL((document.currentScript as HTMLScriptElement | null)?.src ?? location.href).origin

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

/** What all parts have in common: whom they ask, in which language they speak, and how they tell what happens. */
export abstract class Part<Words> extends HTMLElement {
  protected abstract readonly dictionary: { en: Words } & Record<string, Words>
  private readonly heard = (event: Event) => this.cartChanged?.((event as CustomEvent<Cart>).detail)

  /** Whether it stands on the page: attributes that were there before are read once, all together. */
  protected ready = false

  connectedCallback() {
    this.ready = true
    document.addEventListener(CART, this.heard)
  }

  disconnectedCallback() {
    this.ready = false
    document.removeEventListener(CART, this.heard)
  }

  protected cartChanged?(cart: Cart): void

  protected at(name: string): string | null {
    return this.getAttribute(name)
  }

  /** What stands as JSON in an attribute; what can't be read counts as not there. */
  protected json<Value>(name: string): Value | null {
    try {
      return JSON.parse(this.at(name) || 'null') as Value | null
    } catch {
      return null
    }
  }

  protected get words(): Words {
    const language = (this.closest<HTMLElement>('[lang]')?.lang || navigator.language || 'en').toLowerCase()
    return this.dictionary[language.split('-')[0]!] ?? this.dictionary.en
  }

  protected get locale(): string | undefined {
    return this.closest<HTMLElement>('[lang]')?.lang || undefined
  }

  /** Whom it asks, for what several parts of a page want to know only once. */
  protected get source(): string {
    return this.at('through') ?? `${this.at('server') || ORIGIN} ${this.at('key')}`
  }

  /** Asks the checkout door with the page's key, or the shop's own server, which asks it. */
  protected async call<Answer>(path: string, body?: unknown): Promise<Answer> {
    const through = this.at('through')
    const key = this.at('key')
    return fetched<Answer>(
      through ? `${through}/${path}` : `${this.at('server') || ORIGIN}/checkout/v1/${path}`,
      body,
      through ? 'same-origin' : 'omit',
      through || !key ? {} : { authorization: `Bearer ${key}` },
    )
  }

  /** Mileposts are told to the pages of listed shops without a key too. */
  protected async mileposts(cart: Cart): Promise<{ currency: string; mileposts?: Said[] }> {
    if (this.at('through') || this.at('key')) return this.call<Quote>('quotes', { cart })
    return fetched(`${this.at('server') || ORIGIN}/public/mileposts`, cart, 'omit', {})
  }

  protected tell(name: string, detail: unknown) {
    this.dispatchEvent(new CustomEvent(`gate-mile:${name}`, { bubbles: true, composed: true, detail }))
  }

  protected money(amount: string, currency: string): string {
    return new Intl.NumberFormat(this.locale, { style: 'currency', currency }).format(Number(amount))
  }

  /** A milepost's text, with what its placeholders stand for. */
  protected written({ text, values }: Said, currency: string): string {
    return text.replace(/\{\s*(\w+)\s*\}/g, (_, name: string) => {
      const value = values[name]
      return value ? (value.kind === 'money' ? this.money(value.value, currency) : value.value) : ''
    })
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
  return (await response.json()) as Answer
}

const served = new Map<string, Promise<{ countries: Served[] }>>()

/** Countries to which something is sent, asked for once on a page. */
export async function servedBy(
  source: string,
  ask: () => Promise<{ countries: Served[] }>,
): Promise<Map<string, Served>> {
  if (!served.has(source)) served.set(source, ask())
  try {
    const { countries } = await served.get(source)!
    return new Map(countries.filter((one) => one.served !== 'none').map((one) => [one.country, one]))
  } catch (error) {
    served.delete(source)
    throw error
  }
}

export function countryNames(locale: string | undefined): (code: string) => string {
  const names = new Intl.DisplayNames([locale ?? 'en'], { type: 'region' })
  return (code) => names.of(code) ?? code
}

export function define(name: string, kind: CustomElementConstructor) {
  if (!customElements.get(name)) customElements.define(name, kind)
}
