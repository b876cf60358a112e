const DATE = new Intl.DateTimeFormat('en-GB', {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  timeZone: 'UTC',
})

/** A moment on the store's clock, "2026-11-27T18:00", as people read it. Its figures are shown as they stand. */
export function momentWords(moment: string): string {
  const date = new Date(`${moment}:00Z`)
  return Number.isNaN(date.getTime()) ? moment : DATE.format(date)
}

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']

/** 1 for Monday to 7 for Sunday. */
export function weekdayName(day: number): string {
  return WEEKDAYS[day - 1] ?? String(day)
}

const DAY = new Intl.DateTimeFormat('en-GB', {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  timeZone: 'UTC',
})

/** The days on which something arrives: "Thu 3 Dec to Fri 4 Dec". */
export function arrivalWords(arrives: readonly string[]): string {
  const [first, last] = arrives.map((day) => DAY.format(new Date(`${day}T00:00Z`)))
  return first === last || !last ? (first ?? '') : `${first} to ${last}`
}
