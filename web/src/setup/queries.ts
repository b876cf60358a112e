import { keepPreviousData, QueryClient, useQuery } from '@tanstack/react-query'
import { answerOf, api, type Finding, type Schemas, type SetupState } from '../api/client'
import { writeAs } from '../ui/locale'

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
      // Each key is made in one place, so its fields always have the same order; sorting them would slow typing down.
      queryKeyHashFn: (key) => JSON.stringify(key),
    },
  },
})

/** Where the setup is kept. */
export const SETUP = ['setup']

/** Of a setup that is known only what has changed is fetched. */
async function newest(known: SetupState | undefined, signal: AbortSignal): Promise<SetupState> {
  if (!known?.store) return answerOf(api.GET('/api/setup', { signal }))
  const params = { query: { revision: known.revision, journal: known.journal } }
  const { whole, changes } = await answerOf(api.GET('/api/setup/since', { params, signal }))
  return whole ?? (changes ? changed(known, changes) : known)
}

function changed(known: SetupState, { lists, ...rest }: Schemas['SetupChanges']): SetupState {
  return {
    ...known,
    ...rest,
    zones: merged(known.zones, lists.zones),
    methods: merged(known.methods, lists.methods),
    rates: merged(known.rates, lists.rates),
    classes: merged(known.classes, lists.classes),
    tax_classes: merged(known.tax_classes, lists.tax_classes),
    treatments: merged(known.treatments, lists.treatments),
    groups: merged(known.groups, lists.groups),
    coupons: merged(known.coupons, lists.coupons),
    offers: merged(known.offers, lists.offers),
    rules: merged(known.rules, lists.rules),
    boxes: merged(known.boxes, lists.boxes),
    carriers: merged(known.carriers, lists.carriers),
  }
}

function merged<Item extends { id: string }>(
  known: Item[],
  list: { ids: string[]; items: Item[] } | undefined,
): Item[] {
  if (!list) return known
  const items = new Map([...known, ...list.items].map((item) => [item.id, item]))
  return list.ids.flatMap((id) => items.get(id) ?? [])
}

export function useSetupQuery() {
  return useQuery({
    queryKey: SETUP,
    queryFn: async ({ signal, client }) => {
      const setup = await newest(client.getQueryData<SetupState>(SETUP), signal)
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
    // A long check reports its progress.
    refetchInterval: ({ state }) => (state.data?.progress ? 500 : false),
    placeholderData: keepPreviousData,
  })
}

/** Those that the merchant has not put to sleep. */
export function awake(findings: Finding[] | undefined): Finding[] {
  return (findings ?? []).filter(({ asleep }) => !asleep)
}
