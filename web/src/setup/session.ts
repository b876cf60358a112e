import { useQuery } from '@tanstack/react-query'
import { answerOf, api, type Schemas } from '../api/client'

export type Person = Schemas['Person']
export type Role = Schemas['Role']

/** What each may do, in a few words. */
export const ROLES: readonly (readonly [Role, string, string])[] = [
  ['viewer', 'Viewer', 'looks at everything and changes nothing'],
  ['editor', 'Editor', 'changes the setup and publishes it'],
  ['owner', 'Owner', 'lets others in too, and holds keys, webhooks and backups'],
]

export const roleName = (role: Role) => ROLES.find(([one]) => one === role)?.[1] ?? role

/** "an editor". */
export const aRole = (role: Role) => `${role === 'viewer' ? 'a' : 'an'} ${role}`

/** Who is signed in here, and whether anybody has to be. */
export function useSession() {
  return useQuery({
    queryKey: ['session'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/session', { signal })),
    staleTime: 60_000,
    refetchOnWindowFocus: ({ state }) => (state.data?.accounts && !state.data.person ? 'always' : false),
  })
}
