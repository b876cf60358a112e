import { errorOf, parsed } from './shapes'
import { together } from './together'
import createClient, { type Client } from 'openapi-fetch'
import { heard } from './connection'
import { signedOut } from './signed'
import type { components, paths } from './contract.gen'

export type Schemas = components['schemas']
/** The setup as the server sends it; `store` is null until a shop is open. */
export type SetupState = Schemas['Setup']
/** The setup of a shop that is open. */
export type Setup = SetupState & { store: Schemas['Store'] }

export const isOpen = (setup: SetupState): setup is Setup => setup.store !== null

export type Store = Schemas['Store']
export type Zone = Schemas['Zone']
export type Area = Schemas['Area']
export type Method = Schemas['Method']
export type Rate = Schemas['Rate']
export type Plan = Schemas['Plan']
export type Product = Schemas['Product']
export type Change = Schemas['Change']
export type Cart = Schemas['Cart']
export type Bench = Schemas['Bench']
export type Quote = Schemas['Quote']
export type MethodQuote = Schemas['MethodQuote']
export type ReckoningStep = Schemas['ReckoningStep']
export type Setting = Schemas['Setting']
export type Geography = Schemas['Geography']
export type Ladder = Schemas['Ladder']
export type Finding = Schemas['Finding']
export type CoverageMap = Schemas['CoverageMap']
export type Choices = Schemas['Choices']
export type ShippingClass = Schemas['ShippingClass']
export type Treatment = Schemas['Treatment']
export type Carrier = Schemas['Carrier']
export type Live = NonNullable<Schemas['Live']>
export type Offer = Schemas['Offer']
export type Rule = Schemas['Rule']
export type Group = Schemas['Group']
export type Coupon = Schemas['Coupon']
export type Outlook = Schemas['Outlook']
export type Verdict = Schemas['Verdict']
export type Proof = Schemas['Proof']
export type Condition = Schemas['Condition']
export type Tree = Schemas['Tree']
export type Action = Schemas['Action']
export type Milepost = Schemas['Milepost']
export type Charge = Schemas['Charge']
export type OwnPrice = Schemas['OwnPrice']
export type ProblemDocument = Schemas['Problem']

/** What the server refused, as problem details (RFC 9457). */
export class ApiProblem extends Error {
  readonly problem: ProblemDocument

  constructor(problem: ProblemDocument) {
    super(problem.detail)
    this.problem = problem
  }

  /** The message for one field: the first error at the pointer or below it. */
  at(pointer: string): string | undefined {
    return this.problem.errors.find(
      (error) => error.pointer === pointer || error.pointer.startsWith(`${pointer}/`),
    )?.detail
  }

  /** What was probably meant at the pointer instead. */
  suggestionAt(pointer: string): string | undefined {
    return this.problem.errors.find((error) => error.pointer === pointer)?.suggestion
  }

  /** What to show where only one message fits. */
  get summary(): string {
    return this.problem.errors[0]?.detail ?? this.problem.detail
  }
}

/** What went wrong, in a sentence: of a refusal its first error. */
export function messageOf(error: unknown): string {
  return error instanceof ApiProblem ? error.summary : errorOf(error).message
}

/** The server could not be reached, or did not answer in time. */
export class Unreachable extends Error {}

/** How long an answer may take before it counts as none. */
const PATIENCE = 30_000

/** What the server refused is thrown as what it says; whatever stands between it and here, as what that is. */
function held(request: Request, response: Response, text: string) {
  heard(![502, 504].includes(response.status))
  if (response.ok) return
  // At the door itself a refusal says something else.
  if (response.status === 401 && !new URL(request.url).pathname.startsWith('/api/session')) {
    signedOut(true)
    throw new Unreachable('You are signed out. Nothing is lost: it goes on when you have signed in again.')
  }
  if (response.headers.get('content-type')?.startsWith('application/problem+json'))
    throw new ApiProblem(parsed<ProblemDocument>(text))
  throw new Unreachable(`The server answered with ${response.status}. Nothing is lost: try again.`)
}

/** Nothing came back. */
function lost(request: Request, error: unknown, late: boolean): never {
  if (request.signal.aborted) throw error
  heard(false)
  throw new Unreachable(
    late
      ? 'The server takes too long to answer. Nothing is lost: try again.'
      : 'The server does not answer. Nothing is lost: try again when it runs.',
  )
}

/** Fetches with patience: no answer in time is an answer too. */
async function patiently(request: Request): Promise<Response> {
  const late = AbortSignal.timeout(PATIENCE)
  let response: Response
  let text: string
  try {
    response = await fetch(request, { signal: AbortSignal.any([request.signal, late]) })
    text = await response.text()
  } catch (error) {
    return lost(request, error, late.aborted)
  }
  held(request, response, text)
  const { status, headers } = response
  return new Response(text || null, { status, headers })
}

/** The same for an answer that comes bit by bit, for as long as it takes. */
export async function flowing(request: Request): Promise<Response> {
  let response: Response
  try {
    response = await fetch(request)
  } catch (error) {
    return lost(request, error, false)
  }
  held(request, response, response.ok ? '' : await response.text())
  return response
}

const CONNECTION = {
  baseUrl: typeof location === 'undefined' ? '' : location.origin,
  fetch: patiently,
}

/** What is posted though it changes nothing that is kept; and what opens a shop, or lets somebody into it. */
type Asked =
  | '/api/bench'
  | '/api/carriers/survey'
  | '/api/carriers/{id}/test'
  | '/api/clauses'
  | '/api/comparison'
  | '/api/from-to'
  | '/api/gates'
  | '/api/history/effects'
  | '/api/joining'
  | '/api/joining/first'
  | '/api/joining/look'
  | '/api/landing'
  | '/api/landings'
  | '/api/lines'
  | '/api/margins'
  | '/api/parcels'
  | '/api/products/csv/head'
  | '/api/quote'
  | '/api/session'
  | '/api/several'
  | '/api/store'
  | '/api/trials'
  | '/api/walk'

type Reading = {
  [Path in keyof paths]: Omit<
    paths[Path],
    'patch' | 'put' | (Path extends '/api/session' ? never : 'delete') | (Path extends Asked ? never : 'post')
  >
}

/** An answer that came among others: a refusal is one. */
async function heardAmong(request: Request, response: Response): Promise<Response> {
  held(request, response, response.ok ? '' : await response.clone().text())
  return response
}

const WAYS = {
  send: patiently,
  heard: heardAmong,
  late: async (request: Request) => lost(request, null, true),
  patience: PATIENCE,
}

/** Everything that can be asked, by the contract. What is refused or lost is thrown. */
export const api = createClient<Reading>({
  ...CONNECTION,
  fetch: (request) => together(request, WAYS),
})

/** All of the contract. Only the queues of edits (src/edits) use it, so that no edit goes around them. */
export type Changing = Client<paths>
export const changing: Changing = createClient<paths>(CONNECTION)

/** What came back: `await answerOf(api.GET('/api/setup'))`. */
export async function answerOf<Answer>(
  answer: Promise<{ data?: Answer; response: Response }>,
): Promise<Answer> {
  return (await answer).data as Answer
}

/** The number of the change that a request made, where it made one. */
export function changeOf(response: Response): number | null {
  const change = response.headers.get('gate-mile-change')
  return change ? Number(change) : null
}
