import { useQuery } from '@tanstack/react-query'
import { useId } from 'react'
import { answerOf, api } from '../api/client'
import { Answer } from '../ui/answer'
import { once } from '../ui/locale'

const night = (date: string) =>
  once('night', (locale) => new Intl.DateTimeFormat(locale, { dateStyle: 'full', timeZone: 'UTC' })).format(
    new Date(`${date}T00:00:00Z`),
  )
const size = (bytes: number) =>
  once(
    'megabytes',
    (locale) => new Intl.NumberFormat(locale, { style: 'unit', unit: 'megabyte', maximumFractionDigits: 1 }),
  ).format(bytes / 1_000_000)

/** Copies of the whole shop: one now, and those of the nights. */
export function Backups() {
  const id = useId()
  const backups = useQuery({
    queryKey: ['backups'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/backups', { signal })),
  })
  return (
    <section aria-labelledby={id} className="mt-8 max-w-3xl border-t border-hair pt-4">
      <h2 id={id} className="text-xl">
        Backups
      </h2>
      <p className="mt-1 text-soft">
        A backup is the whole shop in one file, with its releases and orders. The secrets of carriers can’t be
        read from it. <code>bin/restore</code> makes a shop of it again, where there is none.
      </p>
      <a className="button mt-3" href="/api/backups/now" download>
        Make a backup now
      </a>
      <Answer of={backups}>
        {({ nights }) =>
          nights.length ? (
            <>
              <p className="mt-4">
                Made each night from three o’clock on; the last seven are kept, and before them those of eight
                Mondays.
              </p>
              <ul aria-label="Backups of the nights" className="mt-1">
                {nights.map(({ date, bytes }) => (
                  <li key={date} className="flex gap-3 border-t border-hair py-1">
                    <a className="underline" href={`/api/backups/${date}`} download>
                      {night(date)}
                    </a>
                    <span className="text-soft">{size(bytes)}</span>
                  </li>
                ))}
              </ul>
            </>
          ) : (
            <p className="mt-4">The first one is made tonight, from three o’clock on.</p>
          )
        }
      </Answer>
    </section>
  )
}
