import type { components } from './contract.gen'
import { inTurn } from './own-edits'

export type Schemas = components['schemas']
export type Setup = Schemas['Setup']
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

/** The server could not be reached at all. */
export class Unreachable extends Error {}

type Verb = 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE'

export function call<Answer>(
  verb: Verb,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<Answer> {
  if (verb === 'DELETE') {
    const [thing, query] = path.split('?')
    const version = new URLSearchParams(query).get('lock_version')
    return inTurn(thing!, version ? Number(version) : undefined, (renewed) =>
      send(verb, path.replace(/lock_version=\d+/, `lock_version=${renewed}`), body, signal),
    )
  }
  if (verb !== 'PATCH') return send(verb, path, body, signal)
  const { lock_version, ...fields } = body as { lock_version?: number }
  return inTurn(path, lock_version, (version) =>
    send(verb, path, version === undefined ? fields : { ...fields, lock_version: version }, signal),
  )
}

async function send<Answer>(verb: Verb, path: string, body?: unknown, signal?: AbortSignal): Promise<Answer> {
  let response: Response
  try {
    response = await fetch(path, {
      method: verb,
      headers: body === undefined ? {} : { 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      ...(signal ? { signal } : {}),
    })
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new Unreachable('The server does not answer. Nothing is lost: try again when it runs.')
  }
  if (response.status === 204) return undefined as Answer
  const isProblem = response.headers.get('content-type')?.startsWith('application/problem+json')
  if (!response.ok && isProblem) throw new ApiProblem((await response.json()) as ProblemDocument)
  if (!response.ok) throw new Unreachable(`The server answered with ${response.status}.`)
  return (await response.json()) as Answer
}
