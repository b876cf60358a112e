import type { Finding } from '../api/client'

/** Findings that have one cause and are mended by one act: at several zones, mostly. */
export interface Group {
  key: string
  /** The one that says most; the others are like it elsewhere. */
  first: Finding
  all: Finding[]
}

/** What findings have in common: what they say of which setting; of a rate what they say, wherever it is. */
function keyOf({ code, harm, asleep, setting, numbers }: Finding): string {
  const what = setting && setting.kind !== 'rate' ? [setting.kind, setting.id] : numbers
  return JSON.stringify([code, harm, asleep, what])
}

const weight = ({ numbers }: Finding) => ('count' in numbers ? Number(numbers.count) : 0)

/** Groups in the order of their first findings: the most harmful first. */
export function grouped(findings: readonly Finding[]): Group[] {
  const groups = new Map<string, Finding[]>()
  for (const finding of findings) {
    const key = keyOf(finding)
    groups.set(key, [...(groups.get(key) ?? []), finding])
  }
  return [...groups].map(([key, all]) => ({
    key,
    first: all.reduce((most, one) => (weight(one) > weight(most) ? one : most)),
    all,
  }))
}
