/** What the server answers to an edit of one thing, as far as it matters here. */
interface Versioned {
  lock_version?: number
}

// The versions that this tab's own edits have led from and to, by the path of the thing.
const steps = new Map<string, Map<number, number>>()
let last: Promise<unknown> = Promise.resolve()

/**
 * Sends edits one after the other, each based on what this tab's own ones before it have led to: somebody who edits
 * quicker than the server answers is in conflict with nobody. What others have changed in between is still one.
 */
export function inTurn<Answer>(
  path: string,
  version: number | undefined,
  send: (version: number | undefined) => Promise<Answer>,
): Promise<Answer> {
  const run = async () => {
    const based = version === undefined ? undefined : renewed(path, version)
    const answer = await send(based).catch((refused: unknown) => {
      // Somebody else was there: the next edit is sent as it says.
      if ((refused as { problem?: { status: number } }).problem?.status === 409) steps.delete(path)
      throw refused
    })
    const next = (answer as Versioned | undefined)?.lock_version
    if (based !== undefined && next !== undefined && next > based) remember(path, based, next)
    return answer
  }
  const mine = last.then(run, run)
  last = mine.catch(() => undefined)
  return mine
}

function renewed(path: string, version: number): number {
  let found = version
  for (let next = steps.get(path)?.get(found); next !== undefined; next = steps.get(path)?.get(found))
    found = next
  return found
}

function remember(path: string, from: number, to: number) {
  const known = steps.get(path) ?? new Map<number, number>()
  known.set(from, to)
  steps.set(path, known)
}
