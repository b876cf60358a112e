import { useQuery } from '@tanstack/react-query'
import { createContext, useContext, useMemo, useState, type ReactNode } from 'react'
import { ApiProblem, call, type Bench, type MethodQuote, type Plan, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { documentOf, momentOf, useBenchCart } from './cart'
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
  /** What is wrong with what is being typed in the setup. */
  previewProblem: ApiProblem | null
  preview: Preview | null
  setPreview: (preview: Preview | null) => void
  /** Prices before the edit, where they differ; undefined where nothing changed. */
  before: (method: MethodQuote) => string | null | undefined
}

const ResultContext = createContext<BenchResult | null>(null)

export function useBenchResult(): BenchResult {
  const result = useContext(ResultContext)
  if (!result) throw new Error('useBenchResult outside its provider')
  return result
}

interface Answer {
  bench: Bench
  problem: ApiProblem | null
}

type Request = Schemas['BenchRequest']

/** A plan that can't be read while it is typed must not blank the bench: it is then priced as it stands. */
async function ask(request: Request, signal: AbortSignal): Promise<Answer> {
  try {
    return { bench: await call<Bench>('POST', '/api/bench', request, signal), problem: null }
  } catch (error) {
    const typed =
      error instanceof ApiProblem &&
      error.problem.errors.some(({ pointer }) => pointer.startsWith('/preview'))
    if (!typed) throw error
    return {
      bench: await call<Bench>('POST', '/api/bench', { ...request, preview: null }, signal),
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
  const outer = useContext(ResultContext)
  const [typed, setTyped] = useState<Preview | null>(null)
  const preview = outer ? outer.preview : typed
  const setPreview = outer ? outer.setPreview : setTyped
  const [last, setLast] = useState<Answer | undefined>()
  const request: Request = {
    cart: documentOf(cart),
    compare_to: preview ? setup.revision : compareTo,
    preview,
    at: momentOf(cart),
  }
  const { data, error } = useQuery({
    queryKey: ['bench', setup.revision, request],
    queryFn: ({ signal }) => ask(request, signal),
    retry: false,
  })
  const waiting = data?.bench.board.some(({ methods }) => methods.some(isWaiting)) ?? false
  // Own prices never wait for carriers: live ones fill in. While the cart is being changed nobody is asked.
  const settled = useSettled(JSON.stringify([setup.revision, request]))
  const { data: live } = useQuery({
    queryKey: ['bench', setup.revision, request, 'live'],
    queryFn: ({ signal }) => ask({ ...request, live: true }, signal),
    enabled: waiting && settled,
    staleTime: 30_000,
    retry: false,
  })
  const shown = waiting && live ? live : data
  if (shown && shown !== last) setLast(shown)
  const result = useMemo<BenchResult>(() => {
    const bench = (shown ?? last)?.bench
    const problem = error instanceof ApiProblem ? error : null
    return {
      bench,
      error: problem?.problem.errors.some(({ pointer }) => pointer.startsWith('/cart')) ? null : error,
      problemAt: (pointer) => problem?.at(pointer),
      previewProblem: shown?.problem ?? null,
      preview,
      setPreview,
      before: (method) => {
        const earlier = bench?.before?.rates[method.rate]
        return earlier === undefined || earlier === method.price ? undefined : earlier
      },
    }
  }, [shown, last, error, preview, setPreview])
  return <ResultContext.Provider value={result}>{children}</ResultContext.Provider>
}
