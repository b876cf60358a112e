import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answerOf, api, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
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
