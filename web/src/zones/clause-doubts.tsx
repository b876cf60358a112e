import { useQuery } from '@tanstack/react-query'
import { api, answerOf, type Schemas } from '../api/client'
import { placeName } from '../ui/locale'
import { Button } from '../ui/button'

type Doubt = Schemas['ClausesRead']['doubts'][number]

const SHOWN = 6

/** The list with another clause at one place, counted from 1 as the server counts; an empty one is left out. */
export function withClause(text: string, position: number, clause: string): string {
  let at = 0
  return text
    .split('\n')
    .map((row) =>
      row
        .split(/[,;\t]/)
        .map((item) => item.trim())
        .map((item) => (item && ++at === position ? clause : item))
        .filter(Boolean)
        .join(', '),
    )
    .filter(Boolean)
    .join('\n')
}

/** Clauses that match no address, each with what was probably meant, one click away. */
export function ClauseDoubts({
  doubts,
  take,
  elsewhere,
}: {
  doubts: Doubt[]
  take: (doubt: Doubt) => void
  elsewhere?: (doubt: Doubt) => void
}) {
  if (doubts.length === 0) return null
  return (
    <ul className="my-1 border-l-4 border-ochre bg-white px-2 py-1">
      {doubts.slice(0, SHOWN).map((doubt) => (
        <li key={doubt.position} className="flex flex-wrap items-center gap-x-2 py-0.5">
          <span>
            <span aria-hidden>△ </span>“{doubt.text}” matches nothing: {doubt.detail}
          </span>
          {doubt.meant && <Button onClick={() => take(doubt)}>Use {doubt.meant}</Button>}
          {doubt.country && elsewhere && (
            <Button onClick={() => elsewhere(doubt)}>
              Add {placeName(doubt.country)} to this zone instead
            </Button>
          )}
        </li>
      ))}
      {doubts.length > SHOWN && <li className="text-soft">and {doubts.length - SHOWN} more</li>}
    </ul>
  )
}

/** The same for a list that is kept already: of a rule's condition, say. */
export function PostcodeDoubts({
  country,
  of,
  put,
}: {
  country: string
  of: string[]
  put: (of: string[]) => void
}) {
  const text = of.join(', ')
  const { data } = useQuery({
    queryKey: ['clauses', country, text],
    queryFn: ({ signal }) => answerOf(api.POST('/api/clauses', { body: { country, text }, signal })),
    enabled: text !== '' && country !== '',
    retry: false,
  })
  return (
    <ClauseDoubts
      doubts={data?.doubts ?? []}
      take={(doubt) =>
        put(of.map((clause, at) => (at === doubt.position - 1 ? (doubt.meant ?? clause) : clause)))
      }
    />
  )
}
