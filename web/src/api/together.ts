import { errorOf, parsed } from './shapes'
import type { Schemas } from './client'

type Line = Schemas['SeveralLine']

/** What is asked together where it is asked in one moment, the quickest first: the cart waits for none of the others. */
const TOGETHER = [
  'POST /api/bench',
  'GET /api/releases/state',
  'GET /api/proofs/state',
  'POST /api/landing',
  'POST /api/gates',
  'POST /api/lines',
  'GET /api/class-prices',
  'GET /api/findings',
]
const MOST = 12
/** Milliseconds: what a page asks after it was drawn comes at once, but not in one step. */
const MOMENT = 4

/** How a question is asked by itself, and what is made of an answer that came among others, or of none in time. */
interface Ways {
  send: (request: Request) => Promise<Response>
  heard: (request: Request, response: Response) => Promise<Response>
  late: (request: Request) => Promise<Response>
  /** Milliseconds that all answers may take. */
  patience: number
}

interface Question {
  request: Request
  ways: Ways
  settle: (response: Promise<Response>) => void
}

const turn = ({ request }: Question) => TOGETHER.indexOf(nameOf(request))

function nameOf(request: Request): string {
  return `${request.method} ${new URL(request.url).pathname}`
}

const waiting: Question[] = []

/**
 * Asks by itself, or together with what else is asked in this moment: then in one request, whose answer brings each as
 * soon as it is there. What it does not bring is asked by itself.
 */
export function together(request: Request, ways: Ways): Promise<Response> {
  if (!TOGETHER.includes(nameOf(request))) return ways.send(request)
  return new Promise((resolve, reject) => {
    if (waiting.length === 0) setTimeout(askAll, MOMENT)
    waiting.push({ request, ways, settle: (response) => void response.then(resolve, reject) })
    request.signal.addEventListener('abort', () => reject(errorOf(request.signal.reason)), { once: true })
  })
}

function askAll() {
  const wanted = waiting.splice(0).filter(({ request }) => !request.signal.aborted)
  const some = wanted.sort((a, b) => turn(a) - turn(b)).splice(0, MOST)
  if (some.length > 1) void several(some)
  else some.forEach(alone)
  wanted.forEach(alone)
}

const alone = ({ request, ways, settle }: Question) => settle(ways.send(request))

/** Ends what nobody waits for any more. */
function whileWanted(questions: Question[]): AbortSignal {
  const ending = new AbortController()
  let left = questions.length
  for (const { request } of questions)
    request.signal.addEventListener('abort', () => --left || ending.abort(), { once: true })
  return ending.signal
}

async function several(questions: Question[]) {
  const asks = await Promise.all(questions.map(({ request }) => asked(request)))
  // Carriers take their time: nothing else waits behind them.
  const slow = questions.filter((_, at) => asks[at]?.body?.['live'])
  slow.forEach(alone)
  const quick = questions.filter((one) => !slow.includes(one))
  if (quick.length > 1)
    await inOne(
      quick,
      quick.flatMap((one) => asks[questions.indexOf(one)] ?? []),
    )
  else quick.forEach(alone)
}

async function inOne(questions: Question[], asks: Schemas['Several']['asks']) {
  const open = new Set(questions)
  const patience = Math.max(...questions.map(({ ways }) => ways.patience))
  const late = AbortSignal.timeout(patience)
  try {
    const response = await fetch('/api/several', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ asks } satisfies Schemas['Several']),
      signal: AbortSignal.any([whileWanted(questions), late]),
    })
    if (response.ok)
      for await (const { at, status, body } of lines(response)) {
        const question = questions[at]
        if (!question || !open.delete(question)) continue
        const type = status < 400 ? 'application/json' : 'application/problem+json'
        const text = status === 204 ? null : JSON.stringify(body)
        const { request, ways, settle } = question
        settle(ways.heard(request, new Response(text, { status, headers: { 'content-type': type } })))
      }
  } catch {
    // The questions left open are sent on their own below, and report their own errors.
  }
  for (const one of open)
    if (late.aborted) one.settle(one.ways.late(one.request))
    else if (!one.request.signal.aborted) alone(one)
}

async function asked(request: Request): Promise<Schemas['Several']['asks'][number]> {
  const { pathname, search } = new URL(request.url)
  const path = pathname + search
  if (request.method === 'GET') return { path }
  return { path, body: parsed(await request.clone().text()) }
}

async function* lines(response: Response): AsyncGenerator<Line> {
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  while (reader) {
    const { done, value } = await reader.read()
    const parts = (rest + (value ?? '')).split('\n')
    rest = parts.pop() ?? ''
    for (const text of parts) yield parsed<Line>(text)
    if (done) return
  }
}
