import type { Store } from '../api/client'

export interface Formats {
  /** "4.50" as "£4.50". Zero stays a figure: see `price` for what the shopper is told. */
  money: (amount: string) => string
  /** "0.00" as "free", everything else as money. */
  price: (amount: string) => string
  symbol: string
}

/** How this shop writes money. Amounts stay texts; they are never computed with here. */
export function formatsOf(
  store: Pick<Store, 'currency' | 'currency_exponent'> & { zero_word?: string | null },
): Formats {
  const key = `${store.currency} ${store.currency_exponent} ${store.zero_word ?? ''}`
  const kept = made.get(key)
  if (kept) return kept
  const format = new Intl.NumberFormat('en-GB', {
    style: 'currency',
    currency: store.currency ?? 'GBP',
    minimumFractionDigits: store.currency_exponent,
    maximumFractionDigits: store.currency_exponent,
  })
  // What is being typed may not be an amount yet: it is told as it stands.
  const money = (amount: string) => (Number.isNaN(Number(amount)) ? amount : format.format(Number(amount)))
  const symbol = format.formatToParts(0).find((part) => part.type === 'currency')?.value ?? ''
  const formats: Formats = {
    money,
    price: (amount) => (isZero(amount) ? (store.zero_word ?? 'free') : money(amount)),
    symbol,
  }
  made.set(key, formats)
  return formats
}

/** Making a number format takes longer than using it a thousand times. */
const made = new Map<string, Formats>()

export function isZero(amount: string): boolean {
  return /^-?0*(\.0*)?$/.test(amount)
}

const countryNames = new Intl.DisplayNames(['en-GB'], { type: 'region' })

/** The English name of an ISO 3166-1 code. GB is the United Kingdom. */
export function countryName(code: string): string {
  try {
    return countryNames.of(code) ?? code
  } catch {
    return code
  }
}

export function counted(count: number, one: string, many = plural(one)): string {
  return `${count} ${count === 1 ? one : many}`
}

/** More than one of something, in regular words: zones, boxes. */
export function plural(one: string): string {
  return `${one}${/[sx]$/.test(one) ? 'es' : 's'}`
}

/** How old a live price is. */
export function liveWords(age: number): string {
  return age > 1 ? `live, ${age} s ago` : 'live'
}
