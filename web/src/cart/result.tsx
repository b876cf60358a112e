import { byId } from '../api/by-id'
import { replaceEqualDeep, useQuery } from '@tanstack/react-query'
import { createContext, useCallback, useContext, useEffect, useMemo, useState, type ReactNode } from 'react'
import {
  ApiProblem,
  api,
  answerOf,
  type Bench,
  type MethodQuote,
  type Plan,
  type Schemas,
  type Setup,
} from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { documentOf, momentOf, useBenchCart } from './cart'
import { useStandsOn } from './standing'
import { useSettled } from '../ui/use-settled'

export type Preview =
  | { rate: string; plan: Plan | null; live?: Schemas['Live'] }
  | { treatment: Schemas['TreatmentPreview'] }
  | { offer: Schemas['OfferPreview'] }
  | { rule: Schemas['RulePreview'] }

interface BenchResult {
  bench: Bench | undefined
  error: Error | null
  /** What is wrong with a field of the cart, by its JSON Pointer; the bench goes on showing what stood before. */
  problemAt: (pointer: string) => string | undefined
  /** Prices before the edit, where they differ; undefined where nothing changed. */
  before: (method: MethodQuote) => string | null | undefined
  /** Asks for the reckonings of these rates, for as long as what it returns is not called. */
  reckon: (rates: readonly string[]) => () => void
}

/** What is being typed in the setup: it changes with every key, and what only reads prices does not hear of it. */
interface Previewing {
  preview: Preview | null
  setPreview: (preview: Preview | null) => void
  /** What is wrong with what is being typed. */
  previewProblem: ApiProblem | null
}

interface Asking {
  /** Whether what is shown belongs to an earlier question: the new answer is on its way. */
  pending: boolean
  again: () => void
}

const ResultContext = createContext<BenchResult | null>(null)
const PreviewContext = createContext<Previewing | null>(null)
const AskingContext = createContext<Asking>({ pending: false, again: () => undefined })

export function usePreview(): Previewing {
  const previewing = useContext(PreviewContext)
  if (!previewing) throw new Error('usePreview outside its provider')
  return previewing
}

export function useBenchAsking(): Asking {
  return useContext(AskingContext)
}

/** Whether what was typed stands in the setup already: it is taken from what is typed a moment later. */
function isStored(preview: Preview | null, setup: Setup): boolean {
  if (!preview || !('plan' in preview) || 'live' in preview) return false
  const stored = byId(setup.rates, preview.rate)
  return stored !== undefined && JSON.stringify(stored.plan) === JSON.stringify(preview.plan)
}

/** A short name for what is being typed: a plan of a thousand steps is not compared by its text at every key. */
export function nameOfPreview(preview: Preview | null): number | null {
  if (!preview) return null
  const known = names.get(preview) ?? ++named
  names.set(preview, known)
  return known
}
const names = new WeakMap<Preview, number>()
let named = 0

export function useBenchResult(): BenchResult {
  const result = useContext(ResultContext)
  if (!result) throw new Error('useBenchResult outside its provider')
  return result
}

/** Asks for the reckonings of these rates while the component that calls it is there. */
export function useReckonings(rates: readonly string[]): void {
  const { reckon } = useBenchResult()
  const named = rates.join('\n')
  useEffect(() => (named ? reckon(named.split('\n')) : undefined), [reckon, named])
}

/** Asks for the reckonings of all methods of the bench cart: for a page that shows what steps do to each of them. */
export function useAllReckonings(): void {
  const { bench } = useBenchResult()
  useReckonings(bench?.quote.methods.map(({ rate }) => rate) ?? [])
}

interface Answer {
  bench: Bench
  problem: ApiProblem | null
}

type Request = Schemas['BenchRequest']

/** A plan that can't be read while it is typed must not blank the bench: it is then priced as it stands. */
async function ask(request: Request, signal: AbortSignal): Promise<Answer> {
  try {
    return { bench: await answerOf(api.POST('/api/bench', { body: request, signal })), problem: null }
  } catch (error) {
    const typed =
      error instanceof ApiProblem &&
      error.problem.errors.some(({ pointer }) => pointer.startsWith('/preview'))
    if (!typed) throw error
    return {
      bench: await answerOf(api.POST('/api/bench', { body: { ...request, preview: null }, signal })),
      problem: error,
    }
  }
}

/** Whether a method waits for carriers. */
export function isWaiting({ causes }: MethodQuote): boolean {
  return causes.some(({ code }) => code === 'live_waiting')
}

/** Asks for everything the bench cart gets: after every edit of the cart, of the setup, and of a plan being typed. */
export function BenchResultProvider({ children }: { children: ReactNode }) {
  const { setup, compareTo } = useWorkshop()
  const { cart } = useBenchCart()
  // What is typed in the setup is priced for the second cart too.
  const outer = useContext(PreviewContext)
  const [typed, setTyped] = useState<Preview | null>(null)
  const release = useStandsOn()
  // What is typed belongs to the draft.
  const typing = outer ? outer.preview : typed
  const preview = release === null && !isStored(typing, setup) ? typing : null
  const setPreview = outer ? outer.setPreview : setTyped
  const [last, setLast] = useState<{ from: Answer; answer: Answer; to: string; live: boolean } | undefined>()
  // Rates whose reckonings are open, one entry for each place that shows some: the others are not worked out.
  const [open, setOpen] = useState<readonly (readonly string[])[]>([])
  const reckon = useCallback((rates: readonly string[]) => {
    setOpen((places) => [...places, rates])
    return () => setOpen((places) => places.filter((place) => place !== rates))
  }, [])
  const question = {
    cart: documentOf(cart),
    compare_to: release !== null ? null : preview ? setup.revision : compareTo,
    preview,
    at: momentOf(cart),
    ...(release !== null && { release }),
  }
  const request: Request = { ...question, reckonings: [...new Set(open.flat())].sort() }
  const key = ['bench', setup.revision, { ...request, preview: nameOfPreview(preview) }]
  const { data, error, refetch } = useQuery({
    queryKey: key,
    queryFn: ({ signal }) => ask(request, signal),
    retry: false,
  })
  const waiting = data?.bench.board.some(({ methods }) => methods.some(isWaiting)) ?? false
  // Own prices never wait for carriers: live ones fill in. While the cart is being changed nobody is asked.
  const asked = JSON.stringify([setup.revision, { ...question, preview: nameOfPreview(preview) }])
  const settled = useSettled(asked)
  const { data: live } = useQuery({
    queryKey: [...key, 'live'],
    queryFn: ({ signal }) => ask({ ...request, live: true }, signal),
    enabled: waiting && settled,
    staleTime: 30_000,
    retry: false,
  })
  // Opening a reckoning asks the same question: what the carriers have said stays until they say it again.
  const stays = waiting && !live && last?.live && last.to === asked ? last.from : undefined
  const shown = waiting ? (live ?? stays ?? data) : data
  if (shown && shown !== last?.from)
    // What is the same as before stays the same object: nobody draws it again.
    setLast({
      from: shown,
      answer: { ...shown, bench: replaceEqualDeep(last?.answer.bench, shown.bench) },
      to: asked,
      live: shown === live,
    })
  const bench = last?.answer.bench
  const result = useMemo<BenchResult>(() => {
    const problem = error instanceof ApiProblem ? error : null
    return {
      bench,
      error: problem?.problem.errors.some(({ pointer }) => pointer.startsWith('/cart')) ? null : error,
      problemAt: (pointer) => problem?.at(pointer),
      before: (method) => {
        const earlier = bench?.before?.rates[method.rate]
        return earlier === undefined || earlier === method.price ? undefined : earlier
      },
      reckon,
    }
  }, [bench, error, reckon])
  const previewProblem = shown?.problem ?? null
  const previewing = useMemo(
    () => ({ preview, setPreview, previewProblem }),
    [preview, setPreview, previewProblem],
  )
  const pending = !shown && !error
  const asking = useMemo(() => ({ pending, again: () => void refetch() }), [pending, refetch])
  return (
    <PreviewContext.Provider value={previewing}>
      <AskingContext.Provider value={asking}>
        <ResultContext.Provider value={result}>{children}</ResultContext.Provider>
      </AskingContext.Provider>
    </PreviewContext.Provider>
  )
}
