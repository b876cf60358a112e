import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useId, useState } from 'react'
import { ApiProblem, call, type Area, type Schemas, type Zone } from '../api/client'
import { useGeography, useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import { counted } from '../ui/format'
import { ClauseDoubts, withClause } from './clause-doubts'

const SHOWN = 8

/** Postcode clauses of an area, typed or pasted by the thousand; bad ones are named, good ones can be taken alone. */
export function ClausesEditor({ zone, area, list }: { zone: Zone; area: Area; list: 'only' | 'except' }) {
  const { edit } = useWorkshop()
  const { data: geography } = useGeography()
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const [base, setBase] = useState(zone.lock_version)
  const [error, setError] = useState<string | null>(null)
  const { data: whole } = useQuery({
    queryKey: ['area', area.id, zone.lock_version],
    queryFn: ({ signal }) => call<Area>('GET', `/api/areas/${area.id}`, undefined, signal),
    enabled: area[list].count > area[list].clauses.length,
  })
  const stored = (whole ?? area)[list].clauses.join(', ')
  const text = draft ?? stored
  const asked = useDeferredValue(draft)
  const { data: read } = useQuery({
    queryKey: ['clauses', area.country, asked],
    queryFn: ({ signal }) =>
      call<Schemas['ClausesRead']>('POST', '/api/clauses', { country: area.country, text: asked }, signal),
    enabled: asked !== null,
  })
  const faults = draft === null ? [] : (read?.faults ?? [])
  const doubts = draft === null || asked !== draft ? [] : (read?.doubts ?? [])

  const store = async (typed: string, left: string | null) => {
    try {
      await edit(() => call('PATCH', `/api/areas/${area.id}`, { lock_version: base, [list]: typed }))
      setDraft(left)
      if (left) setBase(zone.lock_version + 1)
      setError(null)
    } catch (problem) {
      const stale = problem instanceof ApiProblem && problem.problem.status === 409
      setError(
        stale
          ? 'This zone was changed elsewhere meanwhile. What you typed is still here; keep it once more to put it over that.'
          : (problem as Error).message,
      )
      if (stale) setBase((problem.problem.current as { lock_version: number }).lock_version)
    }
  }
  const example = geography?.forms[area.country ?? '']
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="font-medium">
        {list === 'only' ? 'Only these postcodes' : 'Except these postcodes'}{' '}
        <span className="font-normal text-soft">
          {area[list].count
            ? counted(area[list].count, 'clause')
            : list === 'only'
              ? 'none: all of them'
              : 'none'}
        </span>
      </label>
      <textarea
        id={id}
        rows={text.length > 120 ? 5 : 2}
        className="field w-full max-w-2xl font-medium"
        spellCheck={false}
        value={text}
        placeholder={
          example
            ? `e.g. ${example}, a beginning of one, PA20 to PA49, IV#`.replace(
                'PA20 to PA49, IV#',
                area.country === 'GB' ? 'PA20 to PA49, IV#' : `${example.slice(0, 2)}# …`,
              )
            : 'e.g. 1000 to 1999, 45'
        }
        aria-invalid={faults.length > 0 || undefined}
        aria-describedby={`${id}-notes`}
        onChange={(event) => {
          if (draft === null) setBase(zone.lock_version)
          setDraft(event.target.value)
          setError(null)
        }}
      />
      <div id={`${id}-notes`}>
        {draft !== null && read && (
          <p className="text-soft">
            {counted(read.clauses.length - doubts.length, 'good clause')}
            {read.duplicates > 0 && `, ${counted(read.duplicates, 'duplicate')} merged`}
            {doubts.length > 0 &&
              `, ${doubts.length} that ${doubts.length === 1 ? 'matches' : 'match'} nothing`}
            {faults.length > 0 && `, ${counted(faults.length, 'bad one')}`}
          </p>
        )}
        {faults.slice(0, SHOWN).map((fault) => (
          <FieldError key={fault.position}>
            Number {fault.position}, line {fault.line}, “{fault.text}”: {fault.detail}
          </FieldError>
        ))}
        {faults.length > SHOWN && <FieldError>and {faults.length - SHOWN} more</FieldError>}
        <ClauseDoubts
          doubts={doubts}
          take={(doubt) => setDraft(withClause(text, doubt.position, doubt.meant ?? ''))}
          elsewhere={(doubt) =>
            void edit(() =>
              call('POST', `/api/zones/${zone.id}/areas`, {
                lock_version: zone.lock_version,
                areas: [{ kind: 'country', country: doubt.country }],
              }),
            )
              .then(() => {
                setDraft(withClause(text, doubt.position, ''))
                setBase(zone.lock_version + 1)
              })
              .catch((problem: Error) =>
                setError(problem instanceof ApiProblem ? problem.summary : problem.message),
              )
          }
        />
        {error && <FieldError>{error}</FieldError>}
      </div>
      {draft !== null && draft !== stored && (
        <div className="flex gap-2">
          {faults.length === 0 ? (
            <button
              type="button"
              className="button border-ink font-semibold"
              onClick={() => void store(draft, null)}
            >
              Keep these postcodes
            </button>
          ) : (
            <button
              type="button"
              className="button"
              disabled={!read?.clauses.length}
              onClick={() =>
                void store(read?.clauses.join(', ') ?? '', faults.map((fault) => fault.text).join(', '))
              }
            >
              Keep the {counted(read?.clauses.length ?? 0, 'good one')}, leave the bad here
            </button>
          )}
          <button
            type="button"
            className="quiet"
            onClick={() => {
              setDraft(null)
              setError(null)
            }}
          >
            Take it back
          </button>
        </div>
      )}
    </div>
  )
}
