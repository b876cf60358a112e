import { errorOf } from '../api/shapes'
import { ApiProblem, Unreachable } from '../api/client'

/** What the server keeps of one thing, as far as an edit of it must know. */
export type Doc = { lock_version?: number } & Record<string, unknown>

/** A queue knows nothing of what it holds: a thing goes in as a document, and comes out as the thing that it is of. */
export const docOf = (thing: object) => thing as Doc
export const thingOf = <Thing>(doc: Doc) => doc as Thing
/** What was typed, in the form its field keeps; and the present state, if somebody else has changed it. */
export const typedOf = <Typed>(edit: { typed: unknown } | undefined) => edit?.typed as Typed | undefined
export const theirsOf = <Thing>(edit: { current: Doc | null } | undefined) =>
  edit?.current ? thingOf<Thing>(edit.current) : undefined

/** What an edit makes of the newest state: only the fields that it touches. */
export type Change = (newest: Doc) => Doc

/** How far an edit has come. A refused one waits until it is sent again or taken back. */
type Stage = 'typed' | 'queued' | 'sent' | 'refused'

/** One edit of one thing, made at one place of it: a field that is typed into, a switch, a plan as a whole. */
export interface Edit {
  /** The address of the thing in the HTTP interface: its queue. */
  readonly thing: string
  /** The place in the thing; the next edit at the same place takes its place. */
  readonly key: string
  /** What it is about, in words. */
  readonly about: string
  /** The page on which it was made. */
  readonly page: string
  /** What was typed, as its field or editor keeps it. */
  readonly typed: unknown
  readonly stage: Stage
  readonly problem: Error | null
  /** What stands there now, where somebody else changed the same place meanwhile. */
  readonly current: Doc | null
  readonly changes: readonly Change[]
  /** How many of its changes are on their way. */
  readonly sending: number
  /** What stood at the place when the edit began: an edit from elsewhere in between is a conflict. */
  readonly base: string
  readonly read: (doc: Doc) => unknown
  /** What is refused together is sent together: a size is known with all three sides. */
  readonly group: string | null
  /** Whether it is the whole of its place rather than a change of it: then one's own other edits clash with it too. */
  readonly exact: boolean
  /** Whether it is sent though it touches no field: what is added, removed or moved. */
  readonly whole: boolean
  readonly send: (fields: Doc, newest: Doc) => Promise<Doc | void>
  /** Sends it together with others of its kind, in one request; null where it goes alone. */
  readonly batch: Batch | null
  /** Called with what was sent and what came of it. */
  readonly stored: (fields: Doc, answer: Doc) => void
}

/** One of many edits that go in one request. */
export interface Batched {
  readonly thing: string
  readonly typed: unknown
  readonly newest: Doc
}

/** Sends many edits in one request and returns, for each, the thing as it is now or why it was refused. */
export type Batch = (list: readonly Batched[]) => Promise<readonly (Doc | Error)[]>

export type Send = Edit['send']

export interface NewEdit {
  thing: string
  key: string
  about: string
  change: Change
  typed?: unknown
  /** Adds to what was done at this place before rather than taking its place. */
  onTop?: boolean
  read?: (doc: Doc) => unknown
  group?: string
  exact?: boolean
  whole?: boolean
  send?: Send
  batch?: Batch
  stored?: Edit['stored']
}

/** For what goes with others only. */
const alone: Send = () => Promise.reject(new Error('This edit goes with others.'))

/** Where an edit stands. */
interface Place {
  readonly thing: string
  readonly key: string
}

const NONE: readonly Edit[] = []
const ATTEMPTS = 5

const same = (one: unknown, other: unknown) => JSON.stringify(one ?? null) === JSON.stringify(other ?? null)

/** The fields of a change that say something other than the newest state. */
function touched(fields: Doc, newest: Doc): Doc {
  return Object.fromEntries(Object.entries(fields).filter(([name, value]) => !same(value, newest[name])))
}

/** What changes make of a state, one after the other. */
export function applied(doc: Doc, changes: readonly Change[]): Doc {
  return changes.reduce((state, change) => ({ ...state, ...change(state) }), doc)
}

/** The fields that changes touch, as the last of them leaves them. */
function fieldsOf(changes: readonly Change[], newest: Doc): Doc {
  let state = newest
  const fields: Doc = {}
  for (const change of changes) {
    const made = change(state)
    Object.assign(fields, made)
    state = { ...state, ...made }
  }
  return fields
}

/**
 * Every edit that is not stored yet, in a queue for each thing. An edit is a function of the newest known state and is
 * worked out when it leaves its queue, so that two quick ones never revert each other; it names only the fields that
 * it touches. What is typed while it is under way stays, and is sent next. What the server refuses stays too, wherever
 * its editor has gone.
 */
export class Edits {
  private readonly lists = new Map<string, readonly Edit[]>()
  private readonly known = new Map<string, Doc>()
  /** How often what found no server was sent again. */
  private resumed = 0
  private readonly busy = new Map<string, Promise<void>>()
  private readonly batches = new Map<Batch, Promise<void>>()
  private readonly listeners = new Set<() => void>()
  private whole: readonly Edit[] | null = null

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => {
      this.listeners.delete(listener)
    }
  }

  /** The edits of one thing; the same array as long as nothing of it changes. */
  readonly of = (thing: string): readonly Edit[] => this.lists.get(thing) ?? NONE

  /** All edits; the same array as long as nothing changes. */
  readonly all = (): readonly Edit[] => (this.whole ??= [...this.lists.values()].flat())

  /**
   * What is known of a thing: what the server answered last, where that is newer than what is shown. It stays known: what
   * is shown comes a moment after the answer.
   */
  newest(thing: string, stored: Doc): Doc {
    const known = this.known.get(thing)
    return known && (known.lock_version ?? 0) > (stored.lock_version ?? 0) ? known : stored
  }

  /** Keeps an edit without sending it: somebody is typing. */
  change(edit: NewEdit, stored: Doc) {
    const { thing, key, change, onTop = false } = edit
    const list = this.of(thing)
    const at = list.findIndex((one) => one.key === key)
    const old = list[at]
    const newest = this.newest(thing, stored)
    this.known.set(thing, newest)
    const read = edit.read ?? ((doc: Doc) => Object.keys(change(doc)).map((name) => doc[name]))
    const next: Edit = {
      thing,
      key,
      about: edit.about,
      page: `${location.pathname}${location.hash}`,
      typed: edit.typed,
      stage: 'typed',
      problem: null,
      current: old?.current ?? null,
      changes: old ? [...(onTop ? old.changes : old.changes.slice(0, old.sending)), change] : [change],
      sending: old?.sending ?? 0,
      base: old?.base ?? JSON.stringify(read(newest) ?? null),
      read: old?.read ?? read,
      group: edit.group ?? null,
      exact: edit.exact ?? false,
      whole: edit.whole ?? false,
      send: edit.send ?? alone,
      batch: edit.batch ?? null,
      stored: edit.stored ?? (() => undefined),
    }
    // An edit stands behind those that were made before it, unless it only goes on where it stood.
    this.put(
      thing,
      at === list.length - 1 && old
        ? [...list.slice(0, at), next]
        : [...list.filter((one) => one !== old), next],
    )
  }

  /** Sends what was typed: at one place, or all of a thing. A conflict waits for the merchant's word. */
  commit(thing: string, key?: string) {
    this.update(thing, key, (edit) =>
      edit.stage === 'typed' && !edit.current ? { ...edit, stage: 'queued' } : edit,
    )
    void this.pump(thing)
  }

  /** Sends a refused edit again; over what stands there now, where somebody else was there. */
  again(thing: string, key: string) {
    this.update(thing, key, (edit) => ({
      ...edit,
      stage: 'queued',
      problem: null,
      current: null,
      base: edit.current ? JSON.stringify(edit.read(edit.current) ?? null) : edit.base,
    }))
    void this.pump(thing)
  }

  /** Sends again what found no server, and what is just about to find none. */
  resume() {
    this.resumed += 1
    for (const edit of this.all())
      if (edit.stage === 'refused' && edit.problem instanceof Unreachable) this.again(edit.thing, edit.key)
  }

  /** Takes an edit back, or all that is typed or refused of a thing. What is under way can't be taken back. */
  drop(thing: string, key?: string) {
    const left = this.of(thing).flatMap((edit) => {
      if (key !== undefined && edit.key !== key) return [edit]
      return edit.sending
        ? [{ ...edit, stage: 'sent' as const, changes: edit.changes.slice(0, edit.sending) }]
        : []
    })
    this.put(thing, left)
  }

  /** When nothing is under way any more. */
  async idle(): Promise<void> {
    while (this.busy.size) await Promise.all(this.busy.values())
  }

  private put(thing: string, list: readonly Edit[]) {
    if (list.length) this.lists.set(thing, list)
    else this.lists.delete(thing)
    this.whole = null
    this.listeners.forEach((listener) => listener())
  }

  private update(thing: string, key: string | undefined, change: (edit: Edit) => Edit) {
    const list = this.of(thing)
    const next = list.map((edit) => (key === undefined || edit.key === key ? change(edit) : edit))
    if (next.some((edit, at) => edit !== list[at])) this.put(thing, next)
  }

  private async pump(thing: string): Promise<void> {
    if (this.busy.has(thing)) return
    const run = async () => {
      for (;;) {
        const edit = this.of(thing).find(({ stage }) => stage === 'queued')
        if (!edit) return
        await (edit.batch ? this.storeMany(edit.batch) : this.store(edit))
      }
    }
    const running = run().finally(() => {
      this.busy.delete(thing)
      this.put(thing, this.of(thing))
    })
    this.busy.set(thing, running)
    await running
  }

  /** An edit, with what was refused of its group. */
  private together(edit: Edit): Edit[] {
    return this.of(edit.thing).filter(
      (one) =>
        one.key === edit.key || (edit.group !== null && one.group === edit.group && one.stage === 'refused'),
    )
  }

  private sent(thing: string, mine: (edit: Edit) => boolean) {
    this.update(thing, undefined, (one) =>
      mine(one) ? { ...one, stage: 'sent', sending: one.changes.length, problem: null } : one,
    )
  }

  /** Sends all edits that wait to go in the same request, of whatever things; one such request at a time. */
  private async storeMany(batch: Batch): Promise<void> {
    const under = this.batches.get(batch)
    if (under) return under
    const running = (async () => {
      // What is committed in the same moment goes along.
      await Promise.resolve()
      const waiting = this.all().filter((one) => one.batch === batch && one.stage === 'queued')
      const list = new Map(
        waiting.flatMap((one) => this.together(one)).map((one) => [`${one.thing} ${one.key}`, one]),
      )
      for (const { thing, key } of list.values()) this.sent(thing, (one) => one.key === key)
      await this.sendMany(batch, [...list.values()], 1)
    })().finally(() => this.batches.delete(batch))
    this.batches.set(batch, running)
    await running
  }

  private async sendMany(batch: Batch, places: readonly Place[], attempt: number): Promise<void> {
    const { resumed } = this
    const edits = places.flatMap(({ thing, key }) => this.of(thing).filter((one) => one.key === key))
    const sent = edits.map(({ thing, typed }) => ({ thing, typed, newest: this.known.get(thing) ?? {} }))
    const outcomes = await batch(sent).catch((error: Error) => edits.map(() => error))
    const again: Place[] = []
    edits.forEach((edit, at) => {
      const { thing, key } = edit
      const mine = (one: Edit) => one.key === key
      const came = outcomes[at] ?? new Error('The server did not answer for this one. Try again.')
      const current = currentOf(came)
      if (!(came instanceof Error)) {
        this.known.set(thing, came)
        this.stored(thing, mine, sent[at]!.newest, came)
      } else if (current && JSON.stringify(edit.read(current) ?? null) === edit.base && attempt < ATTEMPTS) {
        // Somebody was at another place of the thing.
        this.known.set(thing, current)
        again.push({ thing, key })
      } else if (came instanceof Unreachable && this.resumed !== resumed && attempt === 1) {
        again.push({ thing, key })
      } else {
        if (current) this.known.set(thing, current)
        this.refused(thing, mine, came, current)
      }
    })
    if (again.length) await this.sendMany(batch, again, attempt + 1)
  }

  /** Sends one edit, with what was refused of its group. */
  private async store(edit: Edit): Promise<void> {
    const { thing } = edit
    const together = this.together(edit)
    const keys = new Set(together.map(({ key }) => key))
    const mine = (one: Edit) => keys.has(one.key)
    this.sent(thing, mine)
    const changes = together.flatMap((one) => one.changes)
    const { resumed } = this
    let once = true
    for (let attempt = 1; ; attempt += 1) {
      const newest = this.known.get(thing) ?? {}
      const fields = touched(fieldsOf(changes, newest), newest)
      // Another edit of one's own may have been there since.
      if (!edit.whole && together.some((one) => JSON.stringify(one.read(newest) ?? null) !== one.base))
        return this.refused(thing, mine, new Error('It was changed elsewhere meanwhile.'), newest)
      try {
        const answer = edit.whole || Object.keys(fields).length ? await edit.send(fields, newest) : newest
        if (answer) this.known.set(thing, answer)
        this.stored(thing, mine, newest, answer ?? newest)
        return edit.stored(fields, answer ?? newest)
      } catch (error) {
        const current = currentOf(error)
        if (current) this.known.set(thing, current)
        if (current && !edit.whole && attempt < ATTEMPTS) continue
        // What was lost while others were heard again is sent once more, and no more than that.
        if (error instanceof Unreachable && this.resumed !== resumed && once) {
          once = false
          continue
        }
        return this.refused(thing, mine, errorOf(error), current)
      }
    }
  }

  private stored(thing: string, mine: (edit: Edit) => boolean, before: Doc, answer: Doc) {
    const at = (one: Edit, doc: Doc) => JSON.stringify(one.read(doc) ?? null)
    const left = this.of(thing).flatMap((one) => {
      // What one did oneself meanwhile is no conflict: the next edit builds on it.
      if (!mine(one))
        return [one.exact || at(one, before) !== one.base ? one : { ...one, base: at(one, answer) }]
      const changes = one.changes.slice(one.sending)
      return changes.length
        ? [{ ...one, changes, sending: 0, base: JSON.stringify(one.read(answer) ?? null) }]
        : []
    })
    this.put(thing, left)
  }

  private refused(thing: string, mine: (edit: Edit) => boolean, problem: Error, current: Doc | null) {
    this.update(thing, undefined, (one) => {
      if (!mine(one)) return one
      // Somebody has typed on: what they typed is judged when it is sent.
      const on = one.stage !== 'sent'
      return { ...one, sending: 0, current, ...(on ? {} : { stage: 'refused' as const, problem }) }
    })
  }
}

function currentOf(error: unknown): Doc | null {
  return error instanceof ApiProblem && error.problem.status === 409
    ? error.problem.current
      ? docOf(error.problem.current)
      : null
    : null
}
