import { useMemo } from 'react'
import type { Changing } from '../api/client'
import { removing, type Copied, type DocOf, type Kind, type Ordered } from '../api/kinds'
import { useWorkshop } from './workshop'
import { docOf, type Send } from './edits'

interface Named {
  id?: string
}

type Sent = Promise<{ data?: unknown; response: Response }>
type Ids = () => string[] | null

/** What is said of something that went with the rates it had. */
export function removed(name: string, rates: number): string {
  return `Removed ${name}${rates ? ` with its ${rates} ${rates === 1 ? 'rate' : 'rates'}` : ''}`
}

/** The list with the item at `from` moved by `by` places; null where it would fall off the end. */
export function moved<Item>(list: readonly Item[], from: number, by: number): Item[] | null {
  const to = from + by
  const item = list[from]
  if (item === undefined || to < 0 || to >= list.length) return null
  const rest = list.filter((_, index) => index !== from)
  return [...rest.slice(0, to), item, ...rest.slice(to)]
}

let moves = 0

/** What is done with one press: it goes through the same queues as what is typed, and is listed when it is refused. */
export function useActs() {
  const { edits, send, latest } = useWorkshop()
  return useMemo(() => {
    const act = (thing: string, key: string, about: string, run: Send, stored: object = {}) => {
      edits.change(
        { thing, key, about, change: () => ({}), whole: true, read: (doc) => doc.lock_version, send: run },
        docOf(stored),
      )
      edits.commit(thing, key)
    }
    const order = (queue: string, about: string, put: (to: Changing, ids: string[]) => Sent, ids: Ids) =>
      // Moving twice is not moving once: each is an edit of its own.
      act(queue, `${about} ${++moves}`, about, async () => {
        const wanted = ids()
        if (wanted) await send((to) => put(to, wanted))
      })
    return {
      /** Anything else: the function runs when the edit leaves the queue of the thing. */
      act,
      remove: <K extends Kind>(
        kind: K,
        thing: DocOf<K> & Named,
        name: string,
        { said = `Removed ${name}`, moveTo = '' } = {},
      ) =>
        act(
          `/api/${kind}/${thing.id}`,
          'remove',
          `Remove ${name}`,
          async (_, { lock_version = 0 }) => {
            const query = { lock_version, ...(moveTo && { move_to: moveTo }) }
            await send((to) => removing[kind](to, thing.id, query), said)
          },
          thing,
        ),
      duplicate: (kind: Copied, id: string, name: string, opened?: (id: string) => void, said = '') =>
        act(`/api/${kind}/${id}/copy`, 'copy', `Duplicate ${name}`, async () => {
          const made = await send(
            (to) => to.POST(`/api/${kind}/{id}/copy`, { params: { path: { id } } }),
            `Duplicated ${name}${said}`,
          )
          opened?.(made.id)
        }),
      /** Moves one thing among those of its kind, as they stand when the edit is sent. */
      move: (kind: Ordered, id: string, name: string, by: number) =>
        order(
          `/api/${kind}/order`,
          `Move ${name}`,
          (to, ids) => to.PUT(`/api/${kind}/order`, { body: { ids } }),
          () => {
            const list = latest()[kind === 'tax-classes' ? 'tax_classes' : kind].map((one) => one.id)
            return moved(list, list.indexOf(id), by)
          },
        ),
      moveRate: (zone: string, id: string, name: string, by: number) =>
        order(
          `/api/zones/${zone}/rates/order`,
          `Move ${name}`,
          (to, ids) =>
            to.PUT('/api/zones/{id}/rates/order', { params: { path: { id: zone } }, body: { ids } }),
          () => {
            const list = latest()
              .rates.filter((one) => one.zone === zone)
              .map((one) => one.id)
            return moved(list, list.indexOf(id), by)
          },
        ),
    }
  }, [edits, send, latest])
}
