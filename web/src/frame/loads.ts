const PAGES: Record<string, () => Promise<unknown>> = {
  '/zones': () => import('../zones/zones'),
  '/goods': () => Promise.all([import('../goods/goods'), import('../goods/catalogue')]),
  '/rates': () => Promise.all([import('../rates/rates'), import('../rates/rate-list')]),
  '/methods': () => import('../methods/methods'),
  '/offers': () => Promise.all([import('../offers/offers'), import('../offers/offer-list')]),
  '/rules': () => Promise.all([import('../rules/rules'), import('../rules/rule-list')]),
  '/carriers': () => import('../carriers/carriers'),
  '/proofs': () => Promise.all([import('../proofs/proofs'), import('../proofs/proof-list')]),
  '/findings': () => import('../findings/findings'),
  '/release': () => Promise.all([import('../releases/releases'), import('../releases/publish')]),
  '/orders': () => import('../releases/orders'),
  '/turned-away': () => import('../live/turned-away'),
  '/shop': () => import('../store/shop-settings'),
}

// What cannot be fetched now is fetched when it is opened.
const quietly = (loading: Promise<unknown>) => void loading.catch(() => undefined)

/** Fetches a section that is pointed at. */
export function prepare(path: string) {
  const load = PAGES[path]
  if (load) quietly(load())
}
