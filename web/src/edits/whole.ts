import { theirsOf } from './edits'
import { useCallback, useEffect, useRef } from 'react'
import { ApiProblem } from '../api/client'
import type { Edited } from './edited'

interface Form<D, V> {
  /** What is edited, out of the thing. */
  read: (doc: D) => V
  /** What a typed value makes of the thing, in the server's form. */
  write: (typed: V) => Partial<D>
  /** Shows at once what is typed; null when nothing is typed any more. Must stay the same function. */
  preview?: (doc: D | null) => void
  stored?: (fields: Partial<D>, answer: D) => void
  /** Another place that edits a part of the same: what was typed there goes when the whole is changed. */
  over?: string
}

/** A part of a thing that is edited as a whole and kept as it is typed: a plan, a list of places. */
export interface Whole<D, V> {
  shown: V
  change: (update: (old: V) => V) => void
  /** Stores what was typed, or something else in its place. */
  commit: (next?: V) => void
  problem: Error | null
  /** Why it was refused, at a place where the server points. */
  errorAt: (pointer: string) => string | undefined
  /** What stands there now, where somebody else changed it meanwhile. */
  current: D | null
  useMine: () => void
  drop: () => void
}

export function useWhole<D extends object, V>(
  of: Edited<D>,
  key: string,
  about: string,
  form: Form<D, V>,
): Whole<D, V> {
  const edit = of.at(key)
  const shown = edit ? (edit.typed as V) : form.read(of.stored)
  // What is typed within one event builds on itself, before anything is drawn again.
  const now = useRef({ of, shown, form, about })
  useEffect(() => {
    now.current = { of, shown, form, about }
  })
  const idle = !edit
  useEffect(() => {
    if (idle) now.current.form.preview?.(null)
  }, [idle])
  useEffect(() => () => now.current.form.preview?.(null), [])

  const change = useCallback(
    (update: (old: V) => V) => {
      const { of, form, about } = now.current
      const next = update(now.current.shown)
      now.current.shown = next
      const fields = form.write(next)
      if (form.over) of.drop(form.over)
      of.change(key, about, () => fields, {
        typed: next,
        exact: true,
        read: form.read,
        ...(form.stored ? { stored: form.stored } : {}),
      })
      form.preview?.({ ...of.doc, ...fields })
    },
    [key],
  )
  const commit = useCallback(
    (next?: V) => {
      if (next !== undefined) change(() => next)
      now.current.of.commit(key)
    },
    [change, key],
  )
  const problem = edit?.current ? null : (edit?.problem ?? null)
  return {
    shown,
    change,
    commit,
    problem,
    errorAt: (pointer) => (problem instanceof ApiProblem ? problem.at(pointer) : undefined),
    current: theirsOf<D>(edit) ?? null,
    useMine: () => of.again(key),
    drop: () => of.drop(key),
  }
}
