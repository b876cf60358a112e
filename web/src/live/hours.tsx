import type { Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { count, counted } from '../ui/locale'
import { timeWords } from '../ui/moment'

type Asked = Schemas['AskedQuotes']

const HOURS = 24
const GOT: Asked['outcome'][] = ['nothing_available', 'not_served']

/** Quotes of the day by the hour, those that got nothing at the foot of each bar. */
export function Hours({ since, hours }: { since: string; hours: Asked[] }) {
  const { setup } = useWorkshop()
  const zone = setup.store.time_zone
  const start = new Date(since).getTime()
  const bars = Array.from({ length: HOURS }, (_, at) => {
    const mine = hours.filter(({ hour }) => Math.floor((new Date(hour).getTime() - start) / 3_600_000) === at)
    const of = (some: Asked[]) => some.reduce((sum, { times }) => sum + times, 0)
    return {
      at: timeWords(new Date(start + at * 3_600_000).toISOString(), { hour: '2-digit', timeZone: zone }),
      all: of(mine),
      nothing: of(mine.filter(({ outcome }) => GOT.includes(outcome))),
    }
  })
  const most = Math.max(1, ...bars.map(({ all }) => all))
  const busiest = bars.reduce((one, other) => (other.all > one.all ? other : one))
  return (
    <figure
      aria-label={`Quotes by the hour; most in the hour from ${busiest.at}: ${counted(busiest.all, 'quote')}`}
    >
      <div aria-hidden className="flex h-24 items-end gap-px border-b border-ink">
        {bars.map(({ at, all, nothing }) => (
          <span
            key={at}
            className="flex h-full flex-1 flex-col justify-end"
            data-tip={`From ${at}: ${count(all)}, ${count(nothing)} got nothing`}
          >
            <span className="bg-ink/70" style={{ height: `${((all - nothing) / most) * 100}%` }} />
            <span className="bg-brick" style={{ height: `${(nothing / most) * 100}%` }} />
          </span>
        ))}
      </div>
      <div aria-hidden className="flex text-xs text-soft">
        {bars.map(({ at }, index) => (
          <span key={at} className="flex-1">
            {index % 6 === 0 ? at : ''}
          </span>
        ))}
      </div>
    </figure>
  )
}
