import { ApiProblem, Unreachable, flowing, type Changing, type Schemas } from './client'

type Line = Schemas['ImportLine']
/** Hears how many are done, and of how many. */
type Progress = (done: number, total: number) => void

/** What an import came to; the number of the change that it made, where it made one. */
export interface Taken<Result> {
  data: Result
  change: number | null
}

/** Sends a catalogue and reads the answer line by line: how far it is, then what it came to. */
export async function importGoods(
  to: Changing,
  body: Schemas['GoodsImport'],
  progress: Progress,
  signal?: AbortSignal,
): Promise<Taken<Schemas['GoodsImported']>> {
  const { data } = await to.POST('/api/products/import', { ...stream(signal), body })
  return read(data, progress, (result) => ('samples' in result ? result : null))
}

/** The same of proofs. */
export async function importProofs(
  to: Changing,
  body: Schemas['TableImport'],
  progress: Progress,
  signal?: AbortSignal,
): Promise<Taken<Schemas['TableImported']>> {
  const { data } = await to.POST('/api/proofs/import', { ...stream(signal), body })
  return read(data, progress, (result) => ('samples' in result ? null : result))
}

const stream = (signal?: AbortSignal) =>
  ({ parseAs: 'stream', fetch: flowing, ...(signal ? { signal } : {}) }) as const

async function read<Result>(
  answer: ReadableStream<Uint8Array<ArrayBuffer>> | null | undefined,
  progress: Progress,
  ours: (result: NonNullable<Line['result']>) => Result | null,
): Promise<Taken<Result>> {
  const reader = answer?.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  while (reader) {
    const { done, value } = await reader.read()
    const lines = (rest + (value ?? '')).split('\n')
    rest = lines.pop() ?? ''
    for (const text of lines) {
      const line: Line = JSON.parse(text)
      if (line.problem) throw new ApiProblem(line.problem)
      const data = line.result && ours(line.result)
      if (data) return { data, change: line.change ?? null }
      if (line.total) progress(line.done ?? 0, line.total)
    }
    if (done) break
  }
  throw new Unreachable('The answer broke off. Look whether it was taken before trying again.')
}
