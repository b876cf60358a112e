/**
 * How the shop's country writes English: dates, figures, lists. Amounts are typed with a point, so countries that write
 * a comma are read as the United Kingdom does.
 */
const FALLBACK = 'en-GB'

let locale = FALLBACK
let made = new Map<string, unknown>()

/** From now on texts are written as this country writes them; null where the shop has none yet. */
export function writeAs(country: string | null | undefined) {
  const wanted = country ? `en-${country}` : FALLBACK
  const point = new Intl.NumberFormat(wanted).formatToParts(1.5).some(({ value }) => value === '.')
  const next = point ? wanted : FALLBACK
  if (next === locale) return
  locale = next
  made = new Map()
}

/** Making a format takes longer than using it a thousand times, so each is made once for a locale. */
export function once<Format>(key: string, make: (locale: string) => Format): Format {
  const kept = made.get(key)
  if (kept) return kept as Format
  const format = make(locale)
  made.set(key, format)
  return format
}

/** "a, b and c", or "a, b or c"; what is empty is left out. */
export function list(
  items: readonly (string | number | false | null | undefined)[],
  last: 'and' | 'or' = 'and',
): string {
  const type = last === 'and' ? 'conjunction' : 'disjunction'
  const format = once(type, (locale) => new Intl.ListFormat(locale, { style: 'long', type }))
  return format.format(items.filter(Boolean).map(String))
}

/** The first ones of a list and how many more there are: "a, b and 6 more". */
export function shortList(
  items: readonly string[],
  most: number,
  {
    of = items.length,
    rest = (left: number) => `${count(left)} more`,
    last = 'and',
  }: { of?: number; rest?: (left: number) => string; last?: 'and' | 'or' } = {},
): string {
  const shown = items.slice(0, most)
  const left = of - shown.length
  return list(left > 0 ? [...shown, rest(left)] : shown, last)
}

/** What a sentence says of a list that may be long: its first five. */
export function few(items: readonly string[], last: 'and' | 'or' = 'and'): string {
  return shortList(items, items.length > 6 ? 5 : 6, { last })
}

/** A number of things: 12,000. */
export function count(number: number): string {
  return once('count', (locale) => new Intl.NumberFormat(locale)).format(number)
}

/** "1 zone", "12,000 zones". */
export function counted(number: number, one: string, many = plural(one)): string {
  const rules = once('plural', (locale) => new Intl.PluralRules(locale))
  return `${count(number)} ${rules.select(number) === 'one' ? one : many}`
}

/** More than one of something, in regular words: zones, boxes. */
export function plural(one: string): string {
  return `${one}${/[sx]$/.test(one) ? 'es' : 's'}`
}

/** In the order of a dictionary. */
export function alphabetically(one: string, other: string): number {
  return once('order', (locale) => new Intl.Collator(locale)).compare(one, other)
}

/** The English name of an ISO 3166-1 code. GB is the United Kingdom. */
export function countryName(code: string): string {
  try {
    return once('country', (locale) => new Intl.DisplayNames([locale], { type: 'region' })).of(code) ?? code
  } catch {
    return code
  }
}

/** Names that take an article in a sentence: the United Kingdom, the Faroe Islands. */
const WITH_ARTICLE =
  /^(United|Netherlands|Philippines|Bahamas|Maldives|Gambia|Seychelles|Comoros|Isle|Vatican|Palestinian)|(Islands|Republic|Emirates|Territories|Territory)$/

/** A country as it stands within a sentence. */
export function placeName(code: string): string {
  const name = countryName(code)
  return WITH_ARTICLE.test(name) ? `the ${name}` : name
}
