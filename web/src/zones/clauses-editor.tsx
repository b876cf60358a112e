import { typedOf } from '../edits/edits'
import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useId, useRef, type FocusEvent } from 'react'
import { api, answerOf, type Area, type Zone } from '../api/client'
import { useGeography } from '../setup/queries'
import { useEditedArea } from '../edits/edited'
import { FieldError } from '../ui/field-error'
import { counted } from '../ui/locale'
import { useAddAreas } from './add-places'
import { ClauseDoubts, withClause } from './clause-doubts'
import { Button } from '../ui/button'
import { TextArea } from '../ui/input'

const SHOWN = 8

/** What is typed, and the good ones of an earlier text, which are stored and which it is put beside. */
interface Typed {
  text: string
  beside: string
}

const together = (...texts: string[]) => texts.filter(Boolean).join(', ')

/** Postcode clauses of an area, typed or pasted by the thousand; bad ones are named, good ones can be taken alone. */
export function ClausesEditor({ zone, area, list }: { zone: Zone; area: Area; list: 'only' | 'except' }) {
  const edited = useEditedArea(zone, area)
  const { data: geography } = useGeography()
  const id = useId()
  const box = useRef<HTMLDivElement>(null)
  const field = useRef<HTMLTextAreaElement>(null)
  const addAreas = useAddAreas()
  const edit = edited.at(list)
  const typed = typedOf<Typed>(edit)
  const draft = typed?.text ?? null
  const { data: whole } = useQuery({
    queryKey: ['area', area.id, zone.lock_version],
    queryFn: ({ signal }) =>
      answerOf(api.GET('/api/areas/{id}', { params: { path: { id: area.id } }, signal })),
    enabled: area[list].count > area[list].clauses.length,
  })
  const stored = (whole ?? area)[list].clauses.join(', ')
  const text = draft ?? stored
  const asked = useDeferredValue(draft)
  const { data: read } = useQuery({
    queryKey: ['clauses', area.country, asked],
    queryFn: ({ signal }) =>
      answerOf(
        api.POST('/api/clauses', { body: { country: area.country ?? '', text: asked ?? '' }, signal }),
      ),
    enabled: asked !== null,
  })
  const faults = draft === null ? [] : (read?.faults ?? [])
  const doubts = draft === null || asked !== draft ? [] : (read?.doubts ?? [])

  const about = `Postcodes of ${zone.name}`
  const type = (text: string, beside = typed?.beside ?? '', sent = together(beside, text)) =>
    edited.change(list, about, () => ({ [list]: sent }), {
      typed: { text, beside } satisfies Typed,
      read: (there) => there[list],
    })
  /** Stores a list without faults when the editor is left; its own buttons decide for themselves. */
  const leave = ({ relatedTarget }: FocusEvent) => {
    if (edit?.stage !== 'typed' || faults.length > 0 || box.current?.contains(relatedTarget)) return
    if (draft === stored) edited.drop(list)
    else edited.commit(list)
  }
  /** Stores the good ones; the bad ones stay here, to be put right and put beside them. */
  const keepGood = (good: string, bad: string) => {
    const all = together(typed?.beside ?? '', good)
    edited.change(list, about, () => ({ [list]: all }), {
      typed: { text: bad, beside: all } satisfies Typed,
      read: (there) => there[list],
      stored: () => type(bad, all),
    })
    edited.commit(list)
  }
  const error = edit?.current
    ? 'This zone was changed elsewhere meanwhile. What you typed is still here.'
    : edit?.problem?.message
  const example = geography?.forms[area.country ?? '']
  return (
    <div ref={box} className="flex flex-col gap-1" onBlur={leave}>
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
      <TextArea
        ref={field}
        id={id}
        rows={text.length > 120 ? 5 : 2}
        className="w-full max-w-2xl font-medium"
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
        onChange={(event) => type(event.target.value)}
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
        {typed?.beside && <p className="text-soft">These are put beside those that are kept.</p>}
        {faults.slice(0, SHOWN).map((fault) => (
          <FieldError key={fault.position}>
            Number {fault.position}, line {fault.line}, “{fault.text}”: {fault.detail}
          </FieldError>
        ))}
        {faults.length > SHOWN && <FieldError>and {faults.length - SHOWN} more</FieldError>}
        <ClauseDoubts
          doubts={doubts}
          take={(doubt) => {
            type(withClause(text, doubt.position, doubt.meant ?? ''))
            field.current?.focus()
          }}
          elsewhere={(doubt) => {
            if (doubt.country) addAreas(zone, [{ kind: 'country', country: doubt.country }])
            type(withClause(text, doubt.position, ''))
            field.current?.focus()
          }}
        />
        {error && <FieldError>{error}</FieldError>}
      </div>
      {draft !== null && draft !== stored && (
        <div className="flex gap-2">
          {faults.length === 0 ? (
            edit?.stage === 'refused' && (
              <Button className="border-ink font-semibold" onClick={() => edited.again(list)}>
                {edit.current ? 'Use mine' : 'Try again'}
              </Button>
            )
          ) : (
            <Button
              disabled={!read?.clauses.length}
              onClick={() =>
                keepGood(together(...(read?.clauses ?? [])), together(...faults.map((fault) => fault.text)))
              }
            >
              Save the {counted(read?.clauses.length ?? 0, 'good one')}, leave the rest here
            </Button>
          )}
          <Button look="quiet" onClick={() => edited.drop(list)}>
            Discard
          </Button>
        </div>
      )}
    </div>
  )
}
