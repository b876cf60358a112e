import { useCallback, useMemo, useSyncExternalStore } from 'react'
import { ApiProblem, type Area, type Changing, type Schemas, type Store, type Zone } from '../api/client'
import { patching, type DocOf, type Kind, type PatchOf } from '../api/kinds'
import { useWorkshop } from './workshop'
import { applied, docOf, thingOf, type Doc, type Edit, type Edits, type Send } from './edits'

interface Options<D> {
  /** What was typed, as its field or editor keeps it. */
  typed?: unknown
  /** Adds to what was done at this place before rather than taking its place. */
  onTop?: boolean
  /** The place itself, to see whether somebody else changed it; the fields that are touched where it is left out. */
  read?: (doc: D) => unknown
  group?: string
  /** Whether it is the whole of its place rather than a change of it. */
  exact?: boolean
  /** Called with what was sent and what came of it. */
  stored?: (fields: Partial<D>, answer: D) => void
}

/** One thing with what is being made of it. */
export interface Edited<D> {
  /** As it is stored. */
  stored: D
  /** With every edit that is not stored yet laid over. */
  doc: D
  edits: readonly Edit[]
  /** Keeps an edit at a place of the thing, without sending it. */
  change: (key: string, about: string, change: (newest: D) => Partial<D>, options?: Options<D>) => void
  /** Sends what was typed at a place, or everywhere in the thing. */
  commit: (key?: string) => void
  /** Changes and sends at once: what is chosen rather than typed. */
  put: (key: string, about: string, change: (newest: D) => Partial<D>, options?: Options<D>) => void
  drop: (key?: string) => void
  again: (key: string) => void
  at: (key: string) => Edit | undefined
  /** Why what was sent was refused, at a place where the server points, or below it. */
  problemAt: (pointer: string) => string | undefined
}

/** A thing of one of the merchant's lists. */
export function useEdited<K extends Kind>(kind: K, stored: DocOf<K> & { id?: string }): Edited<DocOf<K>> {
  const { send } = useWorkshop()
  const thing = `/api/${kind}/${stored.id}`
  return useThing<DocOf<K>>(thing, stored, (fields, newest) =>
    send((to) => patching[kind](to, stored.id, patchOf<PatchOf<K>>(fields, newest))),
  )
}

/** The fields that an edit touches, of the version that it was made of. */
function patchOf<Patch>(fields: Doc, { lock_version }: Doc): Patch {
  return thingOf<Patch>(docOf({ ...fields, lock_version }))
}

/** Any of the things of a list, for a table that edits many of them: `of` reads one with what is being made of it. */
export function useEditedList<K extends Kind>(kind: K) {
  const { edits, send } = useWorkshop()
  const all = useSyncExternalStore(edits.subscribe, edits.all)
  const of = useCallback(
    (shown: DocOf<K> & { id?: string }): Edited<DocOf<K>> => {
      const thing = `/api/${kind}/${shown.id}`
      const list = edits.of(thing)
      const stored = thingOf<DocOf<K>>(edits.newest(thing, shown))
      return editedOf(edits, thing, stored, laidOver(stored, list), list, (fields, newest) =>
        send((to) => patching[kind](to, shown.id, patchOf<PatchOf<K>>(fields, newest))),
      )
    },
    [edits, send, kind],
  )
  return { of, all }
}

/** The shop itself. */
export function useEditedStore(): Edited<Store> {
  const { setup, send } = useWorkshop()
  return useThing<Store>('/api/store', setup.store, (fields, newest) =>
    send((to) => to.PATCH('/api/store', { body: patchOf<Schemas['StorePatch']>(fields, newest) })),
  )
}

/** A part of a zone's places, which has the zone's version and answers with the zone. */
export function useEditedArea(zone: Zone, area: Area): Edited<Area & { lock_version: number }> {
  const { send } = useWorkshop()
  const thing = `/api/areas/${area.id}`
  const stored = useMemo(() => ({ ...area, lock_version: zone.lock_version }), [area, zone.lock_version])
  const own = (there: Zone) => ({
    ...there.areas?.find(({ id }) => id === area.id),
    lock_version: there.lock_version,
  })
  return useThing(thing, stored, async (fields, newest) => {
    try {
      const body = patchOf<Schemas['AreaPatch']>(fields, newest)
      return own(await send((to) => to.PATCH('/api/areas/{id}', { params: { path: { id: area.id } }, body })))
    } catch (error) {
      if (error instanceof ApiProblem && error.problem.status === 409 && error.problem.current)
        throw new ApiProblem({ ...error.problem, current: own(thingOf<Zone>(docOf(error.problem.current))) })
      throw error
    }
  })
}

function useThing<D extends object>(thing: string, shown: D, send: Send): Edited<D> {
  const { edits } = useWorkshop()
  const list = useSyncExternalStore(edits.subscribe, () => edits.of(thing))
  const stored = thingOf<D>(edits.newest(thing, docOf(shown)))
  const doc = useMemo(() => laidOver(stored, list), [list, stored])
  return editedOf(edits, thing, stored, doc, list, send)
}

/** A thing with every edit that is not stored yet; itself where there is none. */
function laidOver<D extends object>(stored: D, list: readonly Edit[]): D {
  if (list.length === 0) return stored
  const changes = list.flatMap((one) => one.changes)
  return thingOf<D>(applied(docOf(stored), changes))
}

function editedOf<D extends object>(
  edits: Edits,
  thing: string,
  stored: D,
  doc: D,
  list: readonly Edit[],
  send: Send,
): Edited<D> {
  const change: Edited<D>['change'] = (key, about, make, { read, stored: done, ...options } = {}) =>
    edits.change(
      {
        ...options,
        thing,
        key,
        about,
        change: (newest) => docOf(make(thingOf<D>(newest))),
        ...(read && { read: (doc) => read(thingOf<D>(doc)) }),
        ...(done && { stored: (fields, answer) => done(thingOf<Partial<D>>(fields), thingOf<D>(answer)) }),
        send,
      },
      docOf(stored),
    )
  return {
    stored,
    doc,
    edits: list,
    change,
    commit: (key) => edits.commit(thing, key),
    put: (key, about, make, options) => {
      change(key, about, make, options)
      edits.commit(thing, key)
    },
    drop: (key) => edits.drop(thing, key),
    again: (key) => edits.again(thing, key),
    at: (key) => list.find((one) => one.key === key),
    problemAt: (pointer) => {
      for (const { problem } of list) {
        const told = problem instanceof ApiProblem ? problem.at(pointer) : undefined
        if (told) return told
      }
      return undefined
    },
  }
}

/**
 * Something outside the setup, which has no history: its edits stand in a queue like all others, and a conflict with
 * somebody else's edit is shown.
 * @param about the queries that are fetched again after each edit
 */
export function useEditedBeside<D extends object>(
  thing: string,
  about: string,
  stored: D,
  patch: (to: Changing, fields: Partial<D>, newest: D) => Promise<{ data?: D; response: Response }>,
): Edited<D> {
  const { sendBeside } = useWorkshop()
  return useThing<D>(thing, stored, async (fields, newest) => {
    const answer = await sendBeside((to) => patch(to, thingOf<Partial<D>>(fields), thingOf<D>(newest)), about)
    return docOf(answer)
  })
}
