import { theirsOf } from '../edits/edits'
import { keysOf } from '../api/shapes'
import { useEffect } from 'react'
import { ApiProblem } from '../api/client'
import type { DocOf } from '../api/kinds'
import { usePreview, type Preview } from '../cart/result'
import { useEdited } from '../edits/edited'
import { named } from '../words/history'

/**
 * One offer or rule as it is edited, each of its fields an edit of its own, and the bench shows what it would do.
 */
export function useDraft<K extends 'offers' | 'rules'>(
  kind: K,
  stored: DocOf<K>,
  /** Must stay the same function. */
  previewOf: (shown: Omit<DocOf<K>, 'lock_version'>) => Preview,
) {
  type D = DocOf<K>
  const { setPreview, preview, previewProblem } = usePreview()
  const of = useEdited(kind, stored)
  const doc = of.doc
  const under = kind === 'offers' ? 'offer' : 'rule'
  const typed = of.edits.length > 0
  useEffect(() => {
    const { lock_version: _, ...shown } = doc
    setPreview(typed ? previewOf(shown) : null)
  }, [doc, typed, previewOf, setPreview])
  useEffect(() => () => setPreview(null), [setPreview])

  const change = (fields: Partial<D>) => {
    const names = keysOf(fields)
    of.change(names.join(' '), `${stored.name}: ${named(names.join(','))}`, () => fields, {
      read: (there) => names.map((name) => there[name]),
    })
  }
  const clashing = of.edits.filter(({ current }) => current)
  const previewing = preview && under in preview
  const problem = of.edits.find((edit) => edit.problem && !edit.current)?.problem
  return {
    of,
    doc,
    change,
    commit: () => of.commit(),
    /** Changes and stores at once: what is chosen rather than typed. */
    put: (fields: Partial<D>) => {
      change(fields)
      of.commit()
    },
    errorAt: (pointer: string) =>
      of.problemAt(pointer) ?? (previewing ? previewProblem?.at(`/preview/${under}${pointer}`) : undefined),
    /** What stands there now, where somebody else changed it meanwhile. */
    current: theirsOf<D>(clashing[0]) ?? null,
    useMine: () => clashing.forEach(({ key }) => of.again(key)),
    drop: () => clashing.forEach(({ key }) => of.drop(key)),
    /** A problem that belongs to no field. */
    problem:
      problem && !(problem instanceof ApiProblem && problem.problem.errors.length) ? problem.message : null,
  }
}
