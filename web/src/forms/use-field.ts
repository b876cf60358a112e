import { docOf, thingOf, typedOf } from '../edits/edits'
import type { KeyboardEvent } from 'react'
import { ApiProblem } from '../api/client'
import type { Edited } from '../edits/edited'

export interface FieldSettings<D extends object> {
  /** The thing that the field is of. */
  of: Edited<D>
  /** The field of it, or a name for a place deeper in it. */
  at: (keyof D & string) | (string & {})
  /** What it is about, in words, where the edit is listed. */
  label: string
  /** The text of what is stored; the field as it is where it is left out. */
  value?: (doc: D) => string
  /** What typed text makes of the thing. */
  write?: (text: string, doc: D) => Partial<D>
  /** Where the server points when this field is wrong. */
  pointer?: string
  /** Fields that are only right together. */
  group?: string
  /** Called while typing, with what the thing becomes, and with null when nothing is typed any more. */
  typing?: (doc: D | null) => void
}

/**
 * One field that is edited in place: typed text stays until it is stored or taken back, whatever the server says and
 * wherever its editor goes. Enter and leaving the field store it, Escape takes it back.
 */
export function useField<D extends object>(settings: FieldSettings<D>) {
  const { of, at, label, typing, group } = settings
  const value = settings.value ?? ((doc: D) => String(docOf(doc)[at] ?? ''))
  const write = settings.write ?? ((text: string) => ({ [at]: text }) as Partial<D>)
  const pointer = settings.pointer ?? `/${at}`
  const edit = of.at(at)
  const stored = value(of.stored)
  const text = typedOf<string>(edit) ?? stored
  const { problem, current } = edit ?? {}

  const change = (typed: string) => {
    const make = (doc: D) => write(typed, doc)
    of.change(at, label, make, { typed, read: value, ...(group ? { group } : {}) })
    typing?.({ ...of.doc, ...make(of.doc) })
  }
  const drop = () => {
    of.drop(at)
    typing?.(null)
  }
  const commit = () => {
    if (edit?.stage !== 'typed' || current) return
    if (text === stored && !edit.sending) return drop()
    of.commit(at)
  }
  const keys = (event: KeyboardEvent) => {
    if (event.nativeEvent.isComposing) return
    if (event.key === 'Enter') {
      event.preventDefault()
      if (edit?.stage === 'refused' && !current) of.again(at)
      else commit()
    }
    if (event.key === 'Escape' && edit) {
      event.stopPropagation()
      drop()
    }
  }

  return {
    text,
    edit,
    dirty: edit !== undefined && text !== stored,
    error:
      problem && !current
        ? problem instanceof ApiProblem
          ? (problem.at(pointer) ?? problem.summary)
          : problem.message
        : null,
    /** What stands there now, where somebody else changed it meanwhile. */
    theirs: current ? value(thingOf<D>(current)) : null,
    change,
    commit,
    keys,
    drop,
    useMine: () => of.again(at),
  }
}
