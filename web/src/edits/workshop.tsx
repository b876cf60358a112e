import { useQueryClient } from '@tanstack/react-query'
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react'
import { ApiProblem, changeOf, changing, type Change, type Changing, type Setup } from '../api/client'
import { SETUP } from '../setup/queries'
import { useReturning } from '../setup/returning'
import { sentenceOfChange } from '../words/history'
import { Edits } from './edits'
import { saidOfStep, tell, tellOvertaken, tellRefused } from './notices'

/** One request by the contract; an answer that comes line by line carries the number of its change itself. */
export type Call<Answer> = (
  to: Changing,
) => Promise<{ data?: Answer; response: Response } | { data: Answer; change: number | null }>

/** What is said when it is stored; nothing where it is empty. */
export type Said<Answer> = string | ((answer: Answer) => string)

interface Workshop {
  /** The setup that is shown. */
  setup: Setup
  /** The newest setup that is known, for edits that leave their queue later than they were made. */
  latest: () => Setup
  /** Every edit that is not stored yet. */
  edits: Edits
  /** The revision before the merchant's last edit; its prices are shown beside the new ones. */
  compareTo: number | null
  /** What that edit was, in words. */
  compared: string
  /** Sends one edit of the setup that has left its queue; what is said of it comes with the way to undo it. */
  send: <Answer>(call: Call<Answer>, said?: Said<Answer>) => Promise<Answer>
  /** Sends one edit of something outside the setup, which has no history: a key, a webhook, an account. */
  sendBeside: <Answer>(call: Call<Answer>, about: string) => Promise<Answer>
  undo: () => Promise<void>
  /** Undoes what somebody else has done. */
  undoOthers: (change: Change) => Promise<void>
  redo: () => Promise<void>
  /** Puts the prices before the last edit away. */
  settle: () => void
}

const WorkshopContext = createContext<Workshop | null>(null)

export function useWorkshop(): Workshop {
  const workshop = useContext(WorkshopContext)
  if (!workshop) throw new Error('useWorkshop outside its provider')
  return workshop
}

export function WorkshopProvider({ setup, children }: { setup: Setup; children: ReactNode }) {
  const client = useQueryClient()
  useReturning()
  const [edits] = useState(() => new Edits())
  const [comparison, setComparison] = useState<{ revision: number | null; label: string | undefined } | null>(
    null,
  )

  const latest = useCallback(() => client.getQueryData<Setup>(SETUP)!, [client])

  const edit = useCallback(
    async <Answer,>(call: Call<Answer>, label?: string) => {
      const before = client.getQueryData<Setup>(SETUP)?.revision ?? null
      try {
        const came = await call(changing)
        const answer = {
          data: came.data as Answer,
          change: 'response' in came ? changeOf(came.response) : came.change,
        }
        setComparison({ revision: before, label })
        return answer
      } finally {
        await client.invalidateQueries({ queryKey: SETUP })
        void client.invalidateQueries({ queryKey: ['products'] })
        // The new setup is drawn before the edit is taken from what was typed: nothing in between is priced.
        await new Promise((drawn) => setTimeout(drawn))
      }
    },
    [client],
  )

  const step = useCallback(
    async (kind: 'undo' | 'redo', id?: number, theirs?: Change) => {
      // What has just been typed is stored first: it is then the newest change.
      await edits.idle()
      const change = theirs ?? client.getQueryData<Setup>(SETUP)?.history[kind]
      if (!change && id === undefined) return
      try {
        const label = saidOfStep(kind, change)
        await edit(
          (to) =>
            to.POST(`/api/history/${kind}`, {
              body: { change: id ?? change!.id, ...(theirs && { others: true }) },
            }),
          label,
        )
        tell(label)
      } catch (error) {
        const later = client.getQueryData<Setup>(SETUP)?.history.undo
        const overtaken =
          id !== undefined && error instanceof ApiProblem && error.problem.status === 409 && later?.id !== id
        if (overtaken && later) tellOvertaken(later)
        else tellRefused(error)
      }
    },
    [client, edit, edits],
  )

  const send = useCallback(
    async <Answer,>(call: Call<Answer>, said?: Said<Answer>): Promise<Answer> => {
      const { data, change } = await edit(call)
      const text = typeof said === 'function' ? said(data) : said
      if (text) tell(text, change === null ? undefined : () => void step('undo', change))
      return data
    },
    [edit, step],
  )

  const sendBeside = useCallback(
    async <Answer,>(call: Call<Answer>, about: string): Promise<Answer> => {
      try {
        return (await call(changing)).data as Answer
      } finally {
        // Refused or not, it may stand otherwise than it is shown.
        await client.invalidateQueries({ queryKey: [about] })
      }
    },
    [client],
  )

  const workshop = useMemo<Workshop>(
    () => ({
      setup,
      latest,
      edits,
      compareTo: comparison?.revision ?? null,
      compared: comparison?.label ?? (setup.history.undo ? sentenceOfChange(setup.history.undo) : ''),
      send,
      sendBeside,
      undo: () => step('undo'),
      undoOthers: (change) => step('undo', undefined, change),
      redo: () => step('redo'),
      settle: () => setComparison(null),
    }),
    [setup, latest, edits, comparison, send, sendBeside, step],
  )
  return <WorkshopContext.Provider value={workshop}>{children}</WorkshopContext.Provider>
}
