import { useRef, useState, type KeyboardEvent } from 'react'
import { ApiProblem } from '../api/client'

export interface Conflict {
  /** What stands there now, changed by somebody else. */
  theirs: string
  version: number
}

export interface FieldSettings {
  /** What is stored. */
  value: string
  /** The lock version that belongs to it. */
  version: number
  /** Where the server points when this field is wrong. */
  pointer: string
  save: (typed: string, version: number) => Promise<unknown>
  /** Reads the field out of the resource that a conflict brings along. */
  read: (current: unknown) => string
  /** Called while typing, for what shows at once. */
  typing?: (typed: string | null) => void
}

/**
 * One field that is edited in place: typed text stays until it is stored or taken back, whatever the server says.
 * Enter and leaving the field store it, Escape takes it back.
 */
export function useField({ value, version, pointer, save, read, typing }: FieldSettings) {
  const [draft, setDraft] = useState<string | null>(null)
  const [error, setError] = useState<string | null>(null)
  const [conflict, setConflict] = useState<Conflict | null>(null)
  const base = useRef(version)
  const busy = useRef(false)

  const change = (typed: string) => {
    if (draft === null) base.current = version
    setDraft(typed)
    setError(null)
    typing?.(typed)
  }

  const reset = () => {
    setDraft(null)
    setError(null)
    setConflict(null)
    typing?.(null)
  }

  const store = async (typed: string, on: number) => {
    if (busy.current) return
    busy.current = true
    try {
      await save(typed, on)
      reset()
    } catch (problem) {
      if (problem instanceof ApiProblem && problem.problem.status === 409 && problem.problem.current) {
        const { current } = problem.problem
        setConflict({ theirs: read(current), version: (current as { lock_version: number }).lock_version })
      } else {
        setError(
          problem instanceof ApiProblem
            ? (problem.at(pointer) ?? problem.summary)
            : (problem as Error).message,
        )
      }
    } finally {
      busy.current = false
    }
  }

  const commit = () => {
    if (draft === null || conflict) return
    if (draft === value) return reset()
    void store(draft, base.current)
  }

  const keys = (event: KeyboardEvent) => {
    if (event.key === 'Enter') {
      event.preventDefault()
      commit()
    }
    if (event.key === 'Escape' && draft !== null) {
      event.stopPropagation()
      reset()
    }
  }

  return {
    text: draft ?? value,
    dirty: draft !== null && draft !== value,
    error,
    conflict,
    change,
    commit,
    keys,
    reset,
    setError,
    useMine: () => conflict && draft !== null && void store(draft, conflict.version),
  }
}
