import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ApiProblem, answerOf, api, Unreachable, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { counted } from '../ui/locale'

export type Release = Schemas['Release']
export type Publication = Schemas['Publication']

/** How often what is planned may have begun to count. */
const MINUTE = 60_000

/** Which release counts, and how many edits the draft has beyond it. */
export function useReleaseState() {
  const { setup } = useWorkshop()
  return useQuery({
    queryKey: ['releases', 'state', setup.revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/releases/state', { signal })),
    placeholderData: keepPreviousData,
    refetchInterval: MINUTE,
  })
}

export function useReleases() {
  const { setup } = useWorkshop()
  return useQuery({
    queryKey: ['releases', 'list', setup.revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/releases', { signal })),
    placeholderData: keepPreviousData,
  })
}

/** What changes for carts between two setups; asked again until it is worked out. */
export function useCartChanges(from: string, to: string, wanted = true) {
  const { setup } = useWorkshop()
  return useQuery({
    queryKey: ['releases', 'changes', from, to, to === 'draft' ? setup.revision : null],
    queryFn: ({ signal }) =>
      answerOf(api.GET('/api/releases/changes', { params: { query: { from, to } }, signal })),
    enabled: wanted,
    refetchInterval: ({ state }) => (state.data?.ready === false ? 700 : false),
  })
}

/** "draft, 4 edits since 12". */
export function draftWords({ live, changes }: Schemas['ReleaseState']): string {
  if (live === null) return 'nothing published'
  return changes ? `draft, ${counted(changes, 'edit')} since ${live}` : `${live} is live`
}

/** One thing that is done beside the setup: while it is under way, and what was wrong with it. */
export function useDoing(about = 'releases') {
  const queries = useQueryClient()
  const [busy, setBusy] = useState(false)
  const [error, setError] = useState<ApiProblem | Unreachable | null>(null)
  const run = async <Answer>(act: () => Promise<Answer>): Promise<Answer | undefined> => {
    setBusy(true)
    setError(null)
    try {
      return await act()
    } catch (problem) {
      if (problem instanceof ApiProblem || problem instanceof Unreachable) setError(problem)
      else throw problem
    } finally {
      // Refused or not, it may stand otherwise than it is shown.
      await queries.invalidateQueries({ queryKey: [about] })
      setBusy(false)
    }
  }
  return {
    busy,
    error,
    run,
    at: (pointer: string) => (error instanceof ApiProblem ? error.at(pointer) : undefined),
  }
}
