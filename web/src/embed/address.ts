/*
 * Helps with the shop's own address form, which stands inside of it. See docs/embed.md.
 */
import { ASKING, countryNames, define, element, Part, servedBy, type Address, type Served } from './frame'
import type { components } from '../api/contract.gen'

type Looked = components['schemas']['CheckoutAddress']
type Field = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement

interface Words {
  notServed: string
  postcode: string
  example: string
  unfinished: string
  lostZero: string
  contradiction: string
  unknownRegion: string
  box: string
  choose: string
}

const WORDS: { en: Words } & Record<string, Words> = {
  en: {
    notServed: 'There is no delivery to this address.',
    postcode: 'This does not look like a postcode of this country.',
    example: 'Such as',
    unfinished: 'This postcode is not whole yet.',
    lostZero: 'A zero is missing at the front of this postcode.',
    contradiction: 'This postcode lies in another region.',
    unknownRegion: 'There is no such region in this country.',
    box: 'This looks like a PO box. Not every delivery goes to one.',
    choose: 'Choose',
  },
  de: {
    notServed: 'An diese Adresse wird nicht geliefert.',
    postcode: 'Das sieht nicht wie eine Postleitzahl dieses Landes aus.',
    example: 'Zum Beispiel',
    unfinished: 'Diese Postleitzahl ist noch nicht vollständig.',
    lostZero: 'Am Anfang dieser Postleitzahl fehlt eine Null.',
    contradiction: 'Diese Postleitzahl liegt in einer anderen Region.',
    unknownRegion: 'Diese Region gibt es in diesem Land nicht.',
    box: 'Das sieht nach einem Postfach aus. Nicht jede Lieferung geht dorthin.',
    choose: 'Bitte wählen',
  },
  fr: {
    notServed: 'Pas de livraison à cette adresse.',
    postcode: 'Ceci ne ressemble pas à un code postal de ce pays.',
    example: 'Par exemple',
    unfinished: 'Ce code postal n’est pas encore complet.',
    lostZero: 'Il manque un zéro au début de ce code postal.',
    contradiction: 'Ce code postal se trouve dans une autre région.',
    unknownRegion: 'Cette région n’existe pas dans ce pays.',
    box: 'Ceci ressemble à une boîte postale. Toutes les livraisons n’y vont pas.',
    choose: 'Choisir',
  },
  es: {
    notServed: 'No hay envío a esta dirección.',
    postcode: 'Esto no parece un código postal de este país.',
    example: 'Por ejemplo',
    unfinished: 'Este código postal aún no está completo.',
    lostZero: 'Falta un cero al principio de este código postal.',
    contradiction: 'Este código postal está en otra región.',
    unknownRegion: 'Esa región no existe en este país.',
    box: 'Parece un apartado de correos. No todos los envíos llegan a uno.',
    choose: 'Elija',
  },
}

/** Milliseconds without a key press after which an address is looked at. */
const REST = 400
/** Fields by the autofill tokens of the HTML Standard. */
const TOKENS = { country: 'country', region: 'address-level1', postcode: 'postal-code' } as const
type Name = keyof typeof TOKENS | 'lines'
/** Marks what stands in a list that the page has left empty. */
const OURS = 'data-gate-mile'
const LINES = ['street-address', 'address-line1', 'address-line2', 'address-line3']

class AddressForm extends Part<Words> {
  static readonly properties = { ...ASKING, boxes: 'text' } as const
  protected readonly dictionary = WORDS
  private known = new Map<string, Served>()
  private timer = 0
  private latest = 0
  private listed: string | null = null
  private readonly places = new Map<Name, HTMLElement>()
  /** Fields that were required before they had nothing to choose. */
  private readonly spared = new WeakSet<Field>()
  private static count = 0
  private readonly number = ++AddressForm.count

  constructor(host: HTMLElement) {
    super(host)
    host.addEventListener('input', () => this.lookSoon(REST))
    host.addEventListener('change', (event) => {
      if (event.target === this.field('country')) this.countryChosen()
      this.lookSoon(0)
    })
  }

  protected override rest() {
    clearTimeout(this.timer)
  }

  protected update() {
    // What stands in the form may not be there yet while the page is still being read.
    if (document.readyState === 'loading')
      document.addEventListener('DOMContentLoaded', () => void this.learn(), { once: true })
    else void this.learn()
  }

  private field(name: keyof typeof TOKENS): Field | null {
    return this.host.querySelector<Field>(`[autocomplete~="${TOKENS[name]}"]`)
  }

  private get streets(): Field[] {
    return [...this.host.querySelectorAll<Field>(LINES.map((token) => `[autocomplete~="${token}"]`).join())]
  }

  private async learn() {
    try {
      this.known = await servedBy(this.source, () => this.call('served'))
    } catch {
      // The form is as good as it was without.
      return
    }
    this.countries()
    this.countryChosen()
    this.lookSoon(0)
  }

  /**
   * Only what is served can be chosen; an empty list is filled. The page's own options stay where they are, out of sight:
   * whatever has made them may want to change them.
   */
  private countries() {
    const field = this.field('country')
    if (!(field instanceof HTMLSelectElement)) return
    const chosen = field.value
    const names = countryNames(this.locale)
    const list = [...this.known.keys()]
      .map((code) => [code, names(code)] as const)
      .sort(([, one], [, other]) => one.localeCompare(other, this.locale))
    this.choices(field, list)
    field.value = this.known.has(chosen) ? chosen : ''
  }

  /** Fills a list that the page has left empty, and hides what can't be chosen of one that it has filled. */
  private choices(field: HTMLSelectElement, list: readonly (readonly [string, string])[]) {
    const codes = new Set(list.map(([code]) => code))
    const theirs = [...field.options].filter((option) => !option.hasAttribute(OURS))
    field.querySelectorAll(`[${OURS}]`).forEach((option) => option.remove())
    for (const option of theirs) {
      option.hidden = option.value !== '' && !codes.has(option.value)
      option.disabled = option.hidden
    }
    if (theirs.some(({ value }) => value)) return
    const own = (value: string, text: string) => element('option', { value, [OURS]: true }, text)
    if (!theirs.length) field.append(own('', this.words.choose))
    field.append(...list.map(([code, name]) => own(code, name)))
  }

  /** Regions that can be chosen, and how a postcode of the country looks. */
  private countryChosen() {
    const country = this.field('country')?.value ?? ''
    const postcode = this.field('postcode')
    const one = this.known.get(country)
    if (postcode instanceof HTMLInputElement) {
      postcode.placeholder = one?.postcode ?? ''
      postcode.autocapitalize = 'characters'
    }
    const region = this.field('region')
    if (!(region instanceof HTMLSelectElement) || this.listed === country) return
    this.listed = country
    const list = Object.entries(one?.regions ?? {})
      .filter(([, how]) => how !== 'none')
      .map(([code]) => [code, one?.names?.[code] ?? code] as const)
      .sort(([, name], [, other]) => name.localeCompare(other, this.locale))
    const chosen = region.value
    this.choices(region, list)
    region.value = list.some(([code]) => code === chosen) ? chosen : ''
    this.show(region, list.length > 0)
  }

  /** A field that nobody sees can't be asked for: a form that requires it could never be sent. */
  private show(field: HTMLSelectElement, shown: boolean) {
    const place = field.closest<HTMLElement>('[data-region]') ?? field.closest('label') ?? field
    place.hidden = !shown
    if (shown) {
      if (this.spared.delete(field)) field.required = true
    } else if (field.required) {
      this.spared.add(field)
      field.required = false
    }
  }

  private lookSoon(rest: number) {
    clearTimeout(this.timer)
    this.timer = window.setTimeout(() => void this.look(), rest)
  }

  private get address(): Address {
    const of = (name: keyof typeof TOKENS) => this.field(name)?.value.trim() || null
    const lines = this.streets.flatMap((field) => field.value.split('\n')).filter((line) => line.trim())
    return {
      country: of('country'),
      region: of('region'),
      postcode: of('postcode'),
      ...(lines.length ? { lines } : {}),
    }
  }

  private async look() {
    const { address } = this
    if (!address.country) return this.notes({})
    const asked = ++this.latest
    let looked: Looked
    try {
      looked = await this.call<Looked>('served', address)
    } catch {
      return
    }
    if (asked !== this.latest) return
    const { words } = this
    const example = this.known.get(address.country)?.postcode
    const wrong = example ? `${words.postcode} ${words.example} ${example}.` : words.postcode
    // What is being typed is not called unfinished.
    const typing = document.activeElement === this.field('postcode')
    const told: [string, Name, string][] = [
      ['malformed_postcode', 'postcode', wrong],
      ['lost_zero', 'postcode', words.lostZero],
      ...(typing
        ? []
        : ([['unfinished_postcode', 'postcode', words.unfinished]] satisfies [string, Name, string][])),
      ['region_against_postcode', 'postcode', words.contradiction],
      ['unknown_region', 'region', words.unknownRegion],
      ...(this.at('boxes') === 'off'
        ? []
        : ([['po_box', 'lines', words.box]] satisfies [string, Name, string][])),
    ]
    const notes: Partial<Record<Name, string>> = {}
    for (const [code, name, text] of told)
      if (looked.remarks?.some((one) => one === code)) notes[name] ??= text
    if (looked.served === false) notes.country ??= words.notServed
    this.notes(notes)
    this.tell('address', { ...address, ...looked })
  }

  /** Each note stands below its field, which it describes. */
  private notes(notes: Partial<Record<Name, string>>) {
    for (const name of ['country', 'region', 'postcode', 'lines'] as const) {
      const field = name === 'lines' ? this.streets[0] : this.field(name)
      if (!field) continue
      let place = this.places.get(name)
      if (!place) {
        // A page may have two such forms.
        const id = `gate-mile-${name}-note-${this.number}`
        place = element('span', { id, class: 'gate-mile-note', role: 'status', 'data-field': name })
        this.places.set(name, place)
        ;(field.closest('label') ?? field).after(place)
        field.setAttribute(
          'aria-describedby',
          [field.getAttribute('aria-describedby'), id].filter(Boolean).join(' '),
        )
      }
      if (place.textContent !== (notes[name] ?? '')) place.textContent = notes[name] ?? ''
    }
  }
}

define('gate-mile-address', AddressForm)
