import { ApiProblem, Unreachable, type ProblemDocument, type Schemas } from './client'

type Line = Schemas['ImportLine']

/** Sends a file and reads the answer line by line: how far it is, then what it came to. */
export async function importLines<Result extends NonNullable<Line['result']>>(
  path: '/api/products/import' | '/api/proofs/import',
  body: Schemas['GoodsImport'] | Schemas['TableImport'],
  progress: (done: number, total: number) => void,
  signal?: AbortSignal,
): Promise<Result> {
  let response: Response
  try {
    response = await fetch(path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
      ...(signal ? { signal } : {}),
    })
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new Unreachable('The server does not answer. Nothing is lost: try again when it runs.')
  }
  if (!response.ok) throw new ApiProblem((await response.json()) as ProblemDocument)
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader()
  let rest = ''
  for (;;) {
    const { done, value } = await reader.read()
    const lines = (rest + (value ?? '')).split('\n')
    rest = lines.pop() ?? ''
    for (const text of lines) {
      const line = JSON.parse(text) as Line
      if (line.problem) throw new ApiProblem(line.problem)
      if (line.result) return line.result as Result
      if (line.total) progress(line.done ?? 0, line.total)
    }
    if (done) throw new Unreachable('The answer broke off. Look whether it was taken before trying again.')
  }
}
