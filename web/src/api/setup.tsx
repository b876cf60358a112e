import { focusManager, keepPreviousData, QueryClient, useQuery, useQueryClient } from '@tanstack/react-query'
import {
  createContext,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react'
import { toast } from '../ui/toast'
import { sentenceOfChange } from '../history/words'
import { Edits } from '../edits/edits'
import {
  ApiProblem,
  answerOf,
  api,
  changeOf,
  changing,
  messageOf,
  type Change,
  type Changing,
  type Finding,
  type Setup,
  type SetupState,
} from './client'
import { writeAs } from '../ui/locale'

/** Prices by the clock, and after how many milliseconds they are fetched again when somebody comes back. */
const BY_CLOCK = ['bench', 'gates', 'lines', 'tariff', 'margins']
const LONG = 300_000

/** What has the revision of the setup in its key, and depends on nothing else but the clock. */
const SETTLED = new Set([
  'class-prices',
  'classes',
  'comparison',
  'coverage',
  'landing',
  'lines',
  'margins',
  'parcels',
  'reaches',
  'targets',
  'tariff',
  'treated',
])

export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: 1,
      // What is worked out of a revision stays what it is.
      staleTime: ({ queryKey }) => (SETTLED.has(String(queryKey[0])) ? Infinity : 0),
      // Coming back to the page asks once whether anything has changed, and fetches only what has (useReturning).
      refetchOnWindowFocus: false,
      // Keys are made in one place each, so their fields stand in one order: sorting them takes too long while typing.
      queryKeyHashFn: (key) => JSON.stringify(key),
    },
  },
})

const SETUP = ['setup']

export function useSetupQuery() {
  return useQuery({
    queryKey: SETUP,
    queryFn: async ({ signal }) => {
      const setup = await answerOf(api.GET('/api/setup', { signal }))
      writeAs(setup.store?.country)
      return setup
    },
    // Before there is a shop, somebody may open one elsewhere.
    refetchOnWindowFocus: ({ state }) => (state.data?.store ? false : 'always'),
  })
}

export function useChoices() {
  return useQuery({
    queryKey: ['choices'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/choices', { signal })),
    staleTime: Infinity,
  })
}

export function useGeography() {
  return useQuery({
    queryKey: ['geography'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/geography', { signal })),
    staleTime: Infinity,
  })
}

/** What the audit found, for the setup as it stands. */
export function useFindings(revision: number) {
  return useQuery({
    queryKey: ['findings', revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/findings', { signal })),
    staleTime: Infinity,
    // What takes longer is told as far as it is.
    refetchInterval: ({ state }) => (state.data?.progress ? 500 : false),
    placeholderData: keepPreviousData,
  })
}

/** Those that the merchant has not put to sleep. */
export function awake(findings: Finding[] | undefined): Finding[] {
  return (findings ?? []).filter(({ asleep }) => !asleep)
}

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

/** Asks one small question when the page is looked at again, and for the rest only where it has changed. */
function useReturning() {
  const client = useQueryClient()
  const seen = useRef(0)
  useEffect(() => {
    seen.current = Date.now()
  }, [])
  useEffect(
    () =>
      focusManager.subscribe((focused) => {
        const known = client.getQueryData<SetupState>(SETUP)
        if (!focused || !known) return
        // Offers begin and cutoffs pass while nobody looks.
        if (Date.now() - seen.current > LONG)
          for (const key of BY_CLOCK) void client.invalidateQueries({ queryKey: [key] })
        seen.current = Date.now()
        void answerOf(api.GET('/api/revision')).then(
          ({ revision, beside }) => {
            if (revision === known.revision && beside === known.beside) return
            void client.invalidateQueries({ queryKey: SETUP })
            if (revision !== known.revision) void client.invalidateQueries({ queryKey: ['products'] })
            if (beside !== known.beside)
              for (const key of ['releases', 'people', 'session'])
                void client.invalidateQueries({ queryKey: [key] })
          },
          // The bar says that the server is away.
          () => undefined,
        )
      }),
    [client],
  )
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
        const label = `${kind === 'undo' ? 'Undone' : 'Done again'}: ${change ? sentenceOfChange(change) : ''}`
        await edit(
          (to) =>
            to.POST(`/api/history/${kind}`, {
              body: { change: id ?? change!.id, ...(theirs && { others: true }) },
            }),
          label,
        )
        toast(label)
      } catch (error) {
        const later = client.getQueryData<Setup>(SETUP)?.history.undo
        const overtaken =
          id !== undefined && error instanceof ApiProblem && error.problem.status === 409 && later?.id !== id
        toast.error(
          overtaken && later
            ? `It cannot be undone alone: ${sentenceOfChange(later)} came after it. Undo that first.`
            : messageOf(error),
        )
      }
    },
    [client, edit, edits],
  )

  const send = useCallback(
    async <Answer,>(call: Call<Answer>, said?: Said<Answer>): Promise<Answer> => {
      const { data, change } = await edit(call)
      const text = typeof said === 'function' ? said(data) : said
      if (text)
        toast(
          text,
          change === null ? {} : { action: { label: 'Undo', onClick: () => void step('undo', change) } },
        )
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
