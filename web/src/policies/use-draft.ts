import { useEffect, useRef, useState } from 'react'
import { ApiProblem, call } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useBenchResult, type Preview } from '../bench/result'

interface Stored {
  id: string
  lock_version: number
}

/**
 * One offer or rule as it is edited: what is typed stays until it is stored or taken back, whatever the server says, and
 * the bench shows what it would do.
 */
export function useDraft<Fields extends object, Doc extends Fields & Stored>(
  stored: Doc,
  path: string,
  under: 'offer' | 'rule',
) {
  const { edit } = useWorkshop()
  const { setPreview, preview, previewProblem } = useBenchResult()
  const [typed, setTyped] = useState<Partial<Fields>>({})
  // What is typed right now, for answers that come while somebody goes on typing.
  const latest = useRef<Partial<Fields>>({})
  const [base, setBase] = useState(stored.lock_version)
  const [problem, setProblem] = useState<Error | null>(null)
  const doc: Doc = { ...stored, ...typed }

  useEffect(() => () => setPreview(null), [setPreview])

  const keep = (fields: Partial<Fields>) => {
    latest.current = fields
    setTyped(fields)
    if (Object.keys(fields).length === 0) return setPreview(null)
    const { lock_version: _, ...shown } = { ...stored, ...fields }
    setPreview({ [under]: shown } as unknown as Preview)
  }
  const change = (fields: Partial<Fields>) => {
    if (Object.keys(typed).length === 0) setBase(stored.lock_version)
    setProblem(null)
    keep({ ...latest.current, ...fields })
  }
  const drop = () => {
    setProblem(null)
    keep({})
  }
  const same = (one: unknown, other: unknown) => JSON.stringify(one ?? null) === JSON.stringify(other ?? null)
  const store = async (fields: Partial<Fields>, version: number) => {
    try {
      const answer = await edit(() =>
        call<Doc>('PATCH', `${path}/${stored.id}`, { ...fields, lock_version: version }),
      )
      setBase(answer.lock_version)
      setProblem(null)
      // What was typed meanwhile stays.
      keep(
        Object.fromEntries(
          Object.entries(latest.current).filter(
            ([key, value]) => key in fields && !same(value, fields[key as keyof Fields]),
          ),
        ) as Partial<Fields>,
      )
    } catch (error) {
      setProblem(error as Error)
    }
  }
  const changed = (fields: Partial<Fields>) =>
    Object.fromEntries(
      Object.entries(fields).filter(
        ([key, value]) => JSON.stringify(value ?? null) !== JSON.stringify(stored[key as keyof Doc] ?? null),
      ),
    ) as Partial<Fields>
  const commit = () => {
    const fields = changed(typed)
    if (Object.keys(typed).length === 0) return
    if (Object.keys(fields).length === 0) return drop()
    void store(fields, base)
  }
  /** Changes and stores at once: what is chosen rather than typed. */
  const put = (fields: Partial<Fields>) => {
    const first = Object.keys(typed).length === 0
    keep({ ...latest.current, ...fields })
    void store(changed(latest.current), first ? stored.lock_version : base)
  }
  const refused = problem instanceof ApiProblem ? problem : null
  const current = refused?.problem.status === 409 ? (refused.problem.current as Doc | undefined) : undefined
  const previewing = preview && under in preview
  const errorAt = (pointer: string) =>
    refused?.at(pointer) ?? (previewing ? previewProblem?.at(`/preview/${under}${pointer}`) : undefined)
  return {
    doc,
    change,
    commit,
    put,
    drop,
    errorAt,
    /** What stands there now, where somebody else changed it meanwhile. */
    current,
    useMine: () => current && void store(changed(typed), current.lock_version),
    /** A problem that belongs to no field. */
    problem: problem && !current && !refused?.problem.errors.length ? problem.message : null,
  }
}
