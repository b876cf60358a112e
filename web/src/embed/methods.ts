import type { Method } from './frame'

/** What is said about methods, wherever they are listed. */
export interface MethodWords {
  free: string
  arrives: string
  to: string
  duty: string
  cheapest: string
  fastest: string
}

const METHOD_WORDS = {
  en: {
    free: 'free',
    arrives: 'arrives',
    to: 'to',
    duty: 'duty and tax about',
    cheapest: 'cheapest',
    fastest: 'fastest',
  },
  de: {
    free: 'kostenlos',
    arrives: 'kommt an',
    to: 'bis',
    duty: 'Zoll und Steuern etwa',
    cheapest: 'am günstigsten',
    fastest: 'am schnellsten',
  },
  fr: {
    free: 'gratuit',
    arrives: 'arrive',
    to: 'au',
    duty: 'droits et taxes environ',
    cheapest: 'le moins cher',
    fastest: 'le plus rapide',
  },
  es: {
    free: 'gratis',
    arrives: 'llega',
    to: 'al',
    duty: 'aranceles e impuestos aprox.',
    cheapest: 'el más barato',
    fastest: 'el más rápido',
  },
} satisfies Record<string, MethodWords>

/** In the language of the page; in English where there is none. */
export function methodWords(locale: string | undefined): MethodWords {
  const [language = 'en'] = (locale ?? navigator.language).toLowerCase().split('-')
  return (METHOD_WORDS as Record<string, MethodWords>)[language] ?? METHOD_WORDS.en
}

/** A price as it is read: nothing is what the merchant calls it. */
export function priceOf(
  price: string,
  money: (amount: string) => string,
  zero: string | undefined,
  words: MethodWords,
): string {
  return Number(price) === 0 ? (zero ?? words.free) : money(price)
}

/** What stands below a method's name: its promise, when it arrives, duty, what rules say, where it is collected. */
export function besideOf(
  method: Method,
  locale: string | undefined,
  money: (amount: string) => string,
  words: MethodWords,
): string {
  const day = new Intl.DateTimeFormat(locale, {
    weekday: 'short',
    day: 'numeric',
    month: 'short',
    timeZone: 'UTC',
  })
  const days =
    method.arrives &&
    [method.arrives.first, method.arrives.last].map((date) => day.format(new Date(`${date}T00:00Z`)))
  const arrives =
    days && `${words.arrives} ${days[0] === days[1] ? days[0] : `${days[0]} ${words.to} ${days[1]}`}`
  const duty = method.duty && !method.duty.included && `${words.duty} ${money(method.duty.amount)}`
  const { place, hours } = method.collection ?? {}
  return [method.promise, arrives, place, hours, duty, ...(method.messages ?? [])].filter(Boolean).join(' · ')
}
