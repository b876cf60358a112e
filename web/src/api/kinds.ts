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

/** One thing of a kind, as the server shows it. */
export type DocOf<K extends Kind> = Docs[K]
/** What a new one is made of. */
export type DraftOf<K extends Kind> = Drafts[K]
/** Kinds whose things stand in an order that counts. */
export type Ordered = Exclude<Kind, 'coupons' | 'products' | 'proofs' | 'rates'>
/** Kinds whose things can be duplicated. */
export type Copied = 'methods' | 'offers' | 'rules' | 'zones'
