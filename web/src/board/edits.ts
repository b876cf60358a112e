import { toast } from 'sonner'
import { call, type Rate, type Zone } from '../api/client'
import { useWorkshop } from '../api/setup'

/** The list with the item at `from` moved by `by` places; null where it would fall off the end. */
export function moved<Item>(list: Item[], from: number, by: number): Item[] | null {
  const to = from + by
  const item = list[from]
  if (item === undefined || to < 0 || to >= list.length) return null
  const rest = list.filter((_, index) => index !== from)
  return [...rest.slice(0, to), item, ...rest.slice(to)]
}

/** Runs an edit that has no field of its own to show a problem at: what it did, or why not, is told in a notice. */
export function useTold() {
  const { edit, undo } = useWorkshop()
  return async (what: string, request: () => Promise<unknown>) => {
    try {
      await edit(request)
      if (what) toast(what, { action: { label: 'Undo', onClick: () => void undo() } })
    } catch (error) {
      toast.error((error as Error).message)
    }
  }
}

/** The edits of the Board that are one press of a button. */
export function useEdits() {
  const { setup, edit } = useWorkshop()
  const told = useTold()

  return {
    patchZone: (zone: Zone, body: Partial<Zone>, version = zone.lock_version) =>
      edit(() => call('PATCH', `/api/zones/${zone.id}`, { ...body, lock_version: version })),
    copyZone: (zone: Zone) =>
      told(`Duplicated ${zone.name}, with its rates`, () => call('POST', `/api/zones/${zone.id}/copy`, {})),
    switchZone: (zone: Zone, active: boolean) =>
      told('', () => call('PATCH', `/api/zones/${zone.id}`, { active, lock_version: zone.lock_version })),
    moveZone: (index: number, by: number) => {
      const order = moved(setup.zones, index, by)
      return order
        ? told('', () => call('PUT', '/api/zones/order', { ids: order.map(({ id }) => id) }))
        : Promise.resolve()
    },
    removeZone: (zone: Zone, rates: number) =>
      told(`Removed ${zone.name}${rates ? ` with its ${rates} ${rates === 1 ? 'rate' : 'rates'}` : ''}`, () =>
        call('DELETE', `/api/zones/${zone.id}?lock_version=${zone.lock_version}`),
      ),
    switchRate: (rate: Rate, active: boolean) =>
      told('', () => call('PATCH', `/api/rates/${rate.id}`, { active, lock_version: rate.lock_version })),
    moveRate: (rates: Rate[], index: number, by: number) => {
      const order = moved(rates, index, by)
      const zone = rates[index]?.zone
      return order && zone
        ? told('', () => call('PUT', `/api/zones/${zone}/rates/order`, { ids: order.map(({ id }) => id) }))
        : Promise.resolve()
    },
    removeRate: (rate: Rate, name: string) =>
      told(`Removed ${name}`, () =>
        call('DELETE', `/api/rates/${rate.id}?lock_version=${rate.lock_version}`),
      ),
  }
}
