import { once } from './locale'

const MOMENT = {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
} as const
const DAY = { weekday: 'short', day: 'numeric', month: 'short' } as const

/** The store's clock is not that of the reader: its figures are shown as they stand. */
const onTheClock = (name: string, options: Intl.DateTimeFormatOptions) =>
  once(name, (locale) => new Intl.DateTimeFormat(locale, { ...options, timeZone: 'UTC' }))

/** A moment on the store's clock, "2026-11-27T18:00", as people read it. */
export function momentWords(moment: string): string {
  const date = new Date(`${moment}:00Z`)
  return Number.isNaN(date.getTime()) ? moment : onTheClock('moment', MOMENT).format(date)
}

/** A day of the store's calendar, "2026-11-27", as people read it. */
export function dateWords(day: string): string {
  const date = new Date(`${day}T00:00Z`)
  return Number.isNaN(date.getTime()) ? day : onTheClock('date', { ...DAY, year: 'numeric' }).format(date)
}

/** When something happened, on the reader's clock. */
export function timeWords(at: string, options: Intl.DateTimeFormatOptions): string {
  return once(JSON.stringify(options), (locale) => new Intl.DateTimeFormat(locale, options)).format(
    new Date(at),
  )
}

/** 1 for Monday to 7 for Sunday. */
export function weekdayName(day: number): string {
  const date = new Date(Date.UTC(2024, 0, day))
  return day >= 1 && day <= 7 ? onTheClock('weekday', { weekday: 'long' }).format(date) : String(day)
}

/** The days on which something arrives: "Thu 3 Dec to Fri 4 Dec". */
export function arrivalWords(arrives: readonly string[]): string {
  const format = onTheClock('day', DAY)
  const [first, last] = arrives.map((day) => format.format(new Date(`${day}T00:00Z`)))
  return first === last || !last ? (first ?? '') : `${first} to ${last}`
}
