import { useSyncExternalStore } from 'react'
import { ApiProblem, messageOf } from '../api/client'
import { useWorkshop } from './workshop'
import type { Call, Said } from './workshop'
import { useActs } from './acts'

/** One thing that is done with a press, as far as it has come. */
export interface Act {
  busy: boolean
  error: Error | null
  /** What to show where only one message fits; nothing while its fields tell. */
  message: string | null
  at: (pointer: string) => string | undefined
  /** Edits the setup: told with the way to undo it. */
  run: <Answer>(call: Call<Answer>, done?: (answer: Answer) => void, said?: Said<Answer>) => void
  /** Edits something outside the setup. */
  beside: <Answer>(call: Call<Answer>, done?: (answer: Answer) => void) => void
  /** Like `run`, and returns the answer, or throws when it is refused. */
  awaited: <Answer>(call: Call<Answer>, said?: Said<Answer>) => Promise<Answer>
  /** Takes back what was refused. */
  drop: () => void
}

/**
 * One button's act. It goes through the queue of its thing; if it is refused, that is shown here and in the list of edits
 * that are not stored, even after the button has gone.
 * @param about what it does, in words
 * @param asked the queries that are fetched again after something outside the setup was done
 */
export function useAct(thing: string, key: string, about: string, asked = 'releases'): Act {
  const { edits, send, sendBeside } = useWorkshop()
  const { act } = useActs()
  const edit = useSyncExternalStore(edits.subscribe, () => edits.of(thing).find((one) => one.key === key))
  const error = edit?.problem ?? null
  return {
    busy: edit?.stage === 'queued' || edit?.stage === 'sent',
    error,
    message: error && messageOf(error),
    at: (pointer) => (error instanceof ApiProblem ? error.at(pointer) : undefined),
    run: (call, done, said) =>
      act(thing, key, about, async () => {
        const answer = await send(call, said)
        done?.(answer)
      }),
    beside: (call, done) =>
      act(thing, key, about, async () => {
        const answer = await sendBeside(call, asked)
        done?.(answer)
      }),
    awaited: (call, said) =>
      new Promise((resolve, reject) =>
        act(thing, key, about, () =>
          send(call, said).then(resolve, (error: Error) => {
            reject(error)
            throw error
          }),
        ),
      ),
    drop: () => edits.drop(thing, key),
  }
}

/** What an edit would do, before it is made: asked at the address that stores it, with `store: false`. */
export { changing as foreseeing } from '../api/client'
/** For what opens a shop from a file: there are no queues yet. */
export { changing as opening } from '../api/client'
