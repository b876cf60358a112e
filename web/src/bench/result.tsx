import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { createContext, useContext, useMemo, useState, type ReactNode } from 'react'
import { ApiProblem, call, type Bench, type MethodQuote, type Plan } from '../api/client'
import { useWorkshop } from '../api/setup'
import { documentOf, useBenchCart } from './cart'

export interface Preview {
  rate: string
  plan: Plan | null
}

interface BenchResult {
  bench: Bench | undefined
  error: Error | null
  /** What is wrong with the plan that is being typed. */
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

/** Asks for everything the bench cart gets: after every edit of the cart, of the setup, and of a plan being typed. */
export function BenchResultProvider({ children }: { children: ReactNode }) {
  const { setup, compareTo } = useWorkshop()
  const { cart } = useBenchCart()
  const [preview, setPreview] = useState<Preview | null>(null)
  const base = preview ? setup.revision : compareTo
  const request = { cart: documentOf(cart), compare_to: base, preview }
  const query = useQuery({
    queryKey: ['bench', setup.revision, request],
    queryFn: ({ signal }) => call<Bench>('POST', '/api/bench', request, signal),
    placeholderData: keepPreviousData,
    retry: false,
  })
  const { data: bench, error } = query
  const result = useMemo<BenchResult>(() => {
    const inPreview =
      error instanceof ApiProblem &&
      error.problem.errors.some(({ pointer }) => pointer.startsWith('/preview'))
    return {
      bench,
      error: inPreview ? null : error,
      previewProblem: inPreview ? error : null,
      preview,
      setPreview,
      before: (method) => {
        const earlier = bench?.before?.rates[method.rate]
        return earlier === undefined || earlier === method.price ? undefined : earlier
      },
    }
  }, [bench, error, preview])
  return <ResultContext.Provider value={result}>{children}</ResultContext.Provider>
}
