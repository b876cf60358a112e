// A shop's side of the checkout door (/checkout/v1): one small file, to be copied. It needs nothing but fetch.
// Answers are objects as docs/api/openapi.yaml says; what is refused is thrown as a Refused.

export interface Cart {
  lines: {
    sku?: string
    name?: string
    quantity: number
    unit_price?: string
    weight?: string
  }[]
  destination?: {
    country: string
    region?: string
    postcode?: string
    lines?: string[]
  }
  group?: string
  coupons?: string[]
}

export interface Method {
  code: string
  name: string
  price: string
  tax?: string
  promise?: string
  arrives?: { first: string; last: string }
  marks?: string[]
  messages?: string[]
}

export interface Quote {
  /** To order with; null for a public key. */
  quote: string | null
  release: number
  at: string
  holds_until: string
  status: 'priced' | 'nothing_available' | 'not_served' | 'undetermined' | 'nothing_ships' | 'empty'
  currency: string
  text: string | null
  needs: string[]
  methods: Method[]
}

export interface Order {
  order: string
  state: 'placed' | 'cancelled' | 'returned'
  method: { code: string; name: string }
  price: string
  currency: string
  release: number
}

export interface Problem {
  status: number
  title: string
  detail: string
  errors: { pointer: string; code: string; detail: string }[]
  promised?: string
  now?: string | null
  quote?: Quote
}

/** What the door refused: problem details (RFC 9457). */
export class Refused extends Error {
  readonly problem: Problem
  /** Seconds after which to ask again. */
  readonly retryAfter: number | null

  constructor(problem: Problem, retryAfter: number | null) {
    super(problem.detail)
    this.problem = problem
    this.retryAfter = retryAfter
  }

  /** Whether the quote ran out: `problem.quote` is a new one, `problem.now` its price. */
  get ranOut(): boolean {
    return this.problem.errors.some(({ code }) => code === 'quote_ran_out')
  }
}

export interface Asking {
  detail?: 'prices' | 'methods' | 'reckonings'
  /** Milliseconds that carriers may take. */
  deadline_ms?: number
}

export class GateMileCheckout {
  readonly #base: string
  readonly #key: string
  readonly #patience: number

  /**
   * @param address of the workbench or of a quote server, e.g. https://gate.example
   * @param key gmk_… on a server, gmp_… in a page
   * @param patience milliseconds to wait for an answer
   */
  constructor(address: string, key: string, patience = 5000) {
    this.#base = `${address.replace(/\/$/, '')}/checkout/v1/`
    this.#key = key
    this.#patience = patience
  }

  quote(cart: Cart, asking: Asking = {}, idempotencyKey?: string): Promise<Quote> {
    return this.#send('POST', 'quotes', { cart, ...asking }, idempotencyKey)
  }

  /** Up to 50 carts: an answer, or what was wrong, for each. */
  async quotes(carts: Cart[], asking: Asking = {}): Promise<(Quote | { problem: Problem })[]> {
    return (
      await this.#send<{ quotes: Quote[] }>('POST', 'quotes/batch', {
        carts,
        ...asking,
      })
    ).quotes
  }

  /** Told once more, the same order is answered alike. */
  order(number: string, quote: string, method: string): Promise<Order> {
    return this.#send('POST', 'orders', { order: number, quote, method })
  }

  close(number: string, state: 'cancelled' | 'returned'): Promise<Order> {
    return this.#send('PATCH', `orders/${encodeURIComponent(number)}`, {
      state,
    })
  }

  async methods(): Promise<{ code: string; name: string; promise: string | null; kind: string }[]> {
    return (await this.#send<{ methods: [] }>('GET', 'methods')).methods
  }

  async #send<Answer>(verb: string, path: string, body?: unknown, idempotencyKey?: string): Promise<Answer> {
    const response = await fetch(this.#base + path, {
      method: verb,
      headers: {
        authorization: `Bearer ${this.#key}`,
        ...(body !== undefined && { 'content-type': 'application/json' }),
        ...(idempotencyKey && { 'idempotency-key': idempotencyKey }),
      },
      body: body === undefined ? null : JSON.stringify(body),
      signal: AbortSignal.timeout(this.#patience),
    })
    const answer: unknown = await response.json()
    if (response.ok) return answer as Answer
    const wait = response.headers.get('retry-after')
    throw new Refused(answer as Problem, wait === null ? null : Number(wait))
  }
}
