import { useSyncExternalStore } from 'react'
import { ApiProblem, messageOf } from '../api/client'
import { making, type DocOf, type DraftOf, type Kind } from '../api/kinds'
import { useWorkshop } from './workshop'
import { docOf, thingOf } from './edits'

/** Something new that is being typed. */
export interface Made<D> {
  doc: D
  type: (fields: Partial<D>) => void
  /** Asks the server to add it. */
  add: () => void
  problemAt: (pointer: string) => string | undefined
  /** What was probably meant there instead. */
  suggestionAt: (pointer: string) => string | undefined
  busy: boolean
  /** Why it was refused. */
  error: Error | null
  /** Puts the form away, with what was typed. */
  drop: () => void
  /** Whether the problem belongs to fields. */
  placed: boolean
  /** What to show where only one message fits. */
  problem: string | null
}

/**
 * A new thing of a kind, as it is typed: it stays, wherever its form goes, until it is added or emptied.
 * @param form tells forms for the same kind apart
 */
export function useMade<K extends Kind, D extends object>(
  kind: K,
  about: string,
  blank: D,
  draft: (typed: D) => DraftOf<K>,
  added?: (made: DocOf<K>, typed: D) => void,
  form = 'new',
): Made<D> {
  const { send } = useWorkshop()
  return useMaking<DocOf<K>, D>(`/api/${kind}`, about, blank, {
    send: (typed) => send((to) => making[kind](to, draft(typed))),
    ...(added ? { added } : {}),
    form,
  })
}

interface Making<Answer, D> {
  send: (typed: D) => Promise<Answer>
  added?: (made: Answer, typed: D) => void
  /** Tells forms for the same kind apart. */
  form?: string
}

/** The same of anything: what is typed into a form until it is sent. */
export function useMaking<Answer, D extends object>(
  thing: string,
  about: string,
  blank: D,
  { send, added, form = 'new' }: Making<Answer, D>,
): Made<D> {
  const { edits } = useWorkshop()
  const list = useSyncExternalStore(edits.subscribe, () => edits.of(thing))
  const edit = list.find(({ key }) => key === form)
  const doc = edit
    ? thingOf<D>(edit.changes.reduce((state, change) => ({ ...state, ...change(state) }), docOf(blank)))
    : blank
  const type = (fields: Partial<D>) =>
    edits.change(
      {
        thing,
        key: form,
        about,
        change: () => fields,
        onTop: true,
        whole: true,
        read: () => null,
        send: async (typed) => {
          const whole = { ...blank, ...thingOf<Partial<D>>(typed) }
          const made = await send(whole)
          added?.(made, whole)
        },
      },
      docOf(blank),
    )
  const problem = edit?.problem ?? null
  return {
    doc,
    type: (fields) => {
      type(fields)
      if (JSON.stringify({ ...doc, ...fields }) === JSON.stringify(blank)) edits.drop(thing, form)
    },
    add: () => {
      const now = () => edits.of(thing).find(({ key }) => key === form)
      if (!now()) type({})
      if (now()?.stage === 'refused') edits.again(thing, form)
      else edits.commit(thing, form)
    },
    error: problem,
    busy: edit?.stage === 'queued' || edit?.stage === 'sent',
    drop: () => edits.drop(thing, form),
    suggestionAt: (pointer) => (problem instanceof ApiProblem ? problem.suggestionAt(pointer) : undefined),
    placed: problem instanceof ApiProblem && problem.problem.errors.length > 0,
    problemAt: (pointer) => (problem instanceof ApiProblem ? problem.at(pointer) : undefined),
    problem: problem ? messageOf(problem) : null,
  }
}
