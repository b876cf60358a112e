/*
 * How far a basket is from an offer, where the tag stands or along the top of the page. See docs/embed.md.
 */
import { ASKING, define, element, Part, sheet, type Cart, type Said } from './frame'

interface Words {
  close: string
  of: string
}

const WORDS: { en: Words } & Record<string, Words> = {
  en: { close: 'Close', of: 'of' },
  de: { close: 'Schließen', of: 'von' },
  fr: { close: 'Fermer', of: 'sur' },
  es: { close: 'Cerrar', of: 'de' },
}

const SHEET = sheet(`
  :host([place=top]) { position: sticky; top: 0; z-index: 1; }
  .milepost { display: flex; flex-wrap: wrap; align-items: center; gap: var(--gate-mile-gap, 0.5em); }
  a { color: inherit; }
  progress { inline-size: 10em; accent-color: var(--gate-mile-accent, currentColor); }
  button { font: inherit; color: inherit; background: none; border: 1px solid var(--gate-mile-border, #767676);
    min-width: 1.5em; min-height: 1.5em; }`)

const closedKey = (offer: string) => `gate-mile:closed:${offer}`

class Milepost extends Part<Words> {
  static readonly properties = {
    cart: 'value',
    page: 'text',
    offer: 'text',
    country: 'text',
    bar: 'text',
    place: 'text',
    ...ASKING,
  } as const
  protected readonly dictionary = WORDS
  private readonly status = element('div', { role: 'status', part: 'status' })
  private later: Cart | null = null
  private latest = 0

  constructor(host: HTMLElement) {
    super(host)
    const root = host.attachShadow({ mode: 'open' })
    root.adoptedStyleSheets = [SHEET]
    root.append(this.status)
  }

  protected update(changed: ReadonlySet<string>) {
    if (changed.has('cart')) this.later = null
    void this.show()
  }

  protected override cartChanged(cart: Cart) {
    this.later = cart
    void this.show()
  }

  /** The basket, in the country that the page knows of where the basket has no address yet. */
  private get cart(): Cart | null {
    const cart = this.later ?? this.value<Cart>('cart')
    const country = this.at('country')
    if (!cart || !country || cart.destination?.country) return cart
    return { ...cart, destination: { ...cart.destination, country } }
  }

  private async show() {
    const { cart } = this
    if (!cart) return
    const asked = ++this.latest
    let answer: { currency: string; mileposts?: Said[] }
    try {
      answer = await this.mileposts(cart)
    } catch {
      // A shop's page goes on with what its milepost said last.
      return
    }
    if (asked !== this.latest) return
    const page = this.at('page') ?? ''
    const offer = this.at('offer')
    const said = (answer.mileposts ?? []).find(
      (one) =>
        (!offer || offer === one.offer) &&
        (one.pages.length === 0 || one.pages.includes(page)) &&
        !this.isClosed(one.offer),
    )
    this.host.toggleAttribute('silent', !said)
    if (said) this.render(said, answer.currency)
    else this.status.replaceChildren()
    this.tell('milepost', said ?? null)
  }

  private render(said: Said, currency: string) {
    const text = this.filled(said, currency)
    const line = said.link
      ? element('a', { href: said.link, part: 'text' }, text)
      : element('span', { part: 'text' }, text)
    const close =
      said.closable &&
      element('button', { type: 'button', part: 'close', 'aria-label': `${this.words.close}: ${text}` }, '×')
    if (close) close.addEventListener('click', () => this.close(said.offer))
    this.status.replaceChildren(
      element(
        'div',
        { class: 'milepost', part: `milepost ${said.moment}`, 'data-moment': said.moment },
        line,
        this.bar(said, currency),
        close,
      ),
    )
  }

  /** Progress as a bar, and in words for those who don't see it. */
  private bar({ values: { remaining, threshold } }: Said, currency: string) {
    if (this.at('bar') === 'off' || !threshold) return null
    const goal = Number.parseFloat(threshold.value)
    const left = remaining ? Number.parseFloat(remaining.value) : 0
    if (!(goal > 0) || !(left >= 0)) return null
    const reached = Math.max(0, goal - left)
    const words = [reached, goal].map((amount) =>
      threshold.kind === 'money'
        ? this.money(String(amount), currency)
        : new Intl.NumberFormat(this.locale).format(amount),
    )
    const said = `${words[0]} ${this.words.of} ${words[1]}`
    return element(
      'progress',
      { part: 'bar', max: goal, value: reached, 'aria-label': said, title: said },
      said,
    )
  }

  private isClosed(offer: string): boolean {
    try {
      return sessionStorage.getItem(closedKey(offer)) !== null
    } catch {
      return false
    }
  }

  private close(offer: string) {
    try {
      sessionStorage.setItem(closedKey(offer), '')
    } catch {
      // Without storage it comes back on the next page.
    }
    this.status.replaceChildren()
    this.host.toggleAttribute('silent', true)
  }
}

define('gate-mile-milepost', Milepost)
