import type { Store } from '../api/client'
import { once } from './locale'

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
  const { currency, currency_exponent: places, zero_word: zero } = store
  return once(`${currency} ${places} ${zero ?? ''}`, (locale) => {
    const format = new Intl.NumberFormat(locale, {
      style: 'currency',
      currency: currency ?? 'GBP',
      minimumFractionDigits: places,
      maximumFractionDigits: places,
    })
    // What is being typed may not be an amount yet: it is told as it stands.
    const money = (amount: string) => (Number.isNaN(Number(amount)) ? amount : format.format(Number(amount)))
    return {
      money,
      price: (amount) => (isZero(amount) ? (zero ?? 'free') : money(amount)),
      symbol: format.formatToParts(0).find((part) => part.type === 'currency')?.value ?? '',
    }
  })
}

export function isZero(amount: string): boolean {
  return /^-?0*(\.0*)?$/.test(amount)
}

/** How old a live price is. */
export function liveWords(age: number): string {
  return age > 1 ? `live, ${age} s ago` : 'live'
}
