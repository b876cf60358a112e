import type { Changing } from './client'
import type { paths } from './contract.gen'

/** What a merchant keeps lists of, by the names that their addresses have in the HTTP interface. */
export type Kind =
  | 'boxes'
  | 'carriers'
  | 'classes'
  | 'coupons'
  | 'groups'
  | 'methods'
  | 'offers'
  | 'products'
  | 'proofs'
  | 'rates'
  | 'rules'
  | 'tax-classes'
  | 'treatments'
  | 'zones'

type Json<Message> = Message extends { content: { 'application/json': infer Body } } ? Body : never

type Docs = { [K in Kind]: Json<paths[`/api/${K}/{id}`]['patch']['responses'][200]> }
type Drafts = { [K in Kind]: Json<paths[`/api/${K}`]['post']['requestBody']> }
type Patches = { [K in Kind]: Json<paths[`/api/${K}/{id}`]['patch']['requestBody']> }

/** One thing of a kind, as the server shows it. */
export type DocOf<K extends Kind> = Docs[K]
/** What a new one is made of. */
export type DraftOf<K extends Kind> = Drafts[K]
/** What an edit of one says. */
export type PatchOf<K extends Kind> = Patches[K]
/** Kinds whose things stand in an order that counts. */
export type Ordered = Exclude<Kind, 'coupons' | 'products' | 'proofs' | 'rates'>
/** Kinds whose things can be duplicated. */
export type Copied = 'methods' | 'offers' | 'rules' | 'zones'

interface Came<Answer> {
  data?: Answer
  response: Response
}

const path = (id: string) => ({ params: { path: { id } } })

/** How a new thing of each kind is made. */
export const making: { [K in Kind]: (to: Changing, body: Drafts[K]) => Promise<Came<Docs[K]>> } = {
  boxes: (to, body) => to.POST('/api/boxes', { body }),
  carriers: (to, body) => to.POST('/api/carriers', { body }),
  classes: (to, body) => to.POST('/api/classes', { body }),
  coupons: (to, body) => to.POST('/api/coupons', { body }),
  groups: (to, body) => to.POST('/api/groups', { body }),
  methods: (to, body) => to.POST('/api/methods', { body }),
  offers: (to, body) => to.POST('/api/offers', { body }),
  products: (to, body) => to.POST('/api/products', { body }),
  proofs: (to, body) => to.POST('/api/proofs', { body }),
  rates: (to, body) => to.POST('/api/rates', { body }),
  rules: (to, body) => to.POST('/api/rules', { body }),
  'tax-classes': (to, body) => to.POST('/api/tax-classes', { body }),
  treatments: (to, body) => to.POST('/api/treatments', { body }),
  zones: (to, body) => to.POST('/api/zones', { body }),
}

/** How one of each kind is edited. */
export const patching: {
  [K in Kind]: (to: Changing, id: string, body: Patches[K]) => Promise<Came<Docs[K]>>
} = {
  boxes: (to, id, body) => to.PATCH('/api/boxes/{id}', { ...path(id), body }),
  carriers: (to, id, body) => to.PATCH('/api/carriers/{id}', { ...path(id), body }),
  classes: (to, id, body) => to.PATCH('/api/classes/{id}', { ...path(id), body }),
  coupons: (to, id, body) => to.PATCH('/api/coupons/{id}', { ...path(id), body }),
  groups: (to, id, body) => to.PATCH('/api/groups/{id}', { ...path(id), body }),
  methods: (to, id, body) => to.PATCH('/api/methods/{id}', { ...path(id), body }),
  offers: (to, id, body) => to.PATCH('/api/offers/{id}', { ...path(id), body }),
  products: (to, id, body) => to.PATCH('/api/products/{id}', { ...path(id), body }),
  proofs: (to, id, body) => to.PATCH('/api/proofs/{id}', { ...path(id), body }),
  rates: (to, id, body) => to.PATCH('/api/rates/{id}', { ...path(id), body }),
  rules: (to, id, body) => to.PATCH('/api/rules/{id}', { ...path(id), body }),
  'tax-classes': (to, id, body) => to.PATCH('/api/tax-classes/{id}', { ...path(id), body }),
  treatments: (to, id, body) => to.PATCH('/api/treatments/{id}', { ...path(id), body }),
  zones: (to, id, body) => to.PATCH('/api/zones/{id}', { ...path(id), body }),
}

/** Which version of a thing goes, and where what belonged to it goes to. */
interface Going {
  lock_version: number
  move_to?: string
}

/** How one of each kind is removed. */
export const removing: {
  [K in Kind]: (to: Changing, id: string, query: Going) => Promise<{ response: Response }>
} = {
  boxes: (to, id, query) => to.DELETE('/api/boxes/{id}', { params: { path: { id }, query } }),
  carriers: (to, id, query) => to.DELETE('/api/carriers/{id}', { params: { path: { id }, query } }),
  classes: (to, id, query) => to.DELETE('/api/classes/{id}', { params: { path: { id }, query } }),
  coupons: (to, id, query) => to.DELETE('/api/coupons/{id}', { params: { path: { id }, query } }),
  groups: (to, id, query) => to.DELETE('/api/groups/{id}', { params: { path: { id }, query } }),
  methods: (to, id, query) => to.DELETE('/api/methods/{id}', { params: { path: { id }, query } }),
  offers: (to, id, query) => to.DELETE('/api/offers/{id}', { params: { path: { id }, query } }),
  products: (to, id, query) => to.DELETE('/api/products/{id}', { params: { path: { id }, query } }),
  proofs: (to, id, query) => to.DELETE('/api/proofs/{id}', { params: { path: { id }, query } }),
  rates: (to, id, query) => to.DELETE('/api/rates/{id}', { params: { path: { id }, query } }),
  rules: (to, id, query) => to.DELETE('/api/rules/{id}', { params: { path: { id }, query } }),
  'tax-classes': (to, id, query) => to.DELETE('/api/tax-classes/{id}', { params: { path: { id }, query } }),
  treatments: (to, id, query) => to.DELETE('/api/treatments/{id}', { params: { path: { id }, query } }),
  zones: (to, id, query) => to.DELETE('/api/zones/{id}', { params: { path: { id }, query } }),
}
