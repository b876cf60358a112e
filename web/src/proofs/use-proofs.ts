import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useNavigate } from 'react-router'
import { api, answerOf, type Cart, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useActs } from '../edits/acts'
import { count, counted } from '../ui/locale'

export type Listed = Schemas['ProofList']['proofs'][number]
export type Outcome = Schemas['ProofOutcome']
export type State = Outcome['state']

/** What is shown of all proofs. */
export interface Shown {
  state: '' | State
  tag: string
  find: string
  limit: number
}

/** How many proofs hold, have changed or are unclear, in the setup as it stands. */
export function useProofState() {
  const { setup } = useWorkshop()
  return useQuery({
    queryKey: ['proofs', 'state', setup.revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/proofs/state', { signal })),
    placeholderData: keepPreviousData,
  })
}

/** "41 hold, 2 changed". */
export function proofCounts({ holds, changed, unclear }: Schemas['ProofState']): string {
  return [
    `${count(holds)} hold`,
    changed > 0 && `${count(changed)} changed`,
    unclear > 0 && `${count(unclear)} unclear`,
  ]
    .filter(Boolean)
    .join(', ')
}

export function useProofs({ state, tag, find, limit }: Shown) {
  const { setup } = useWorkshop()
  return useQuery({
    queryKey: ['proofs', 'list', setup.revision, state, tag, find, limit],
    queryFn: ({ signal }) =>
      answerOf(
        api.GET('/api/proofs', {
          params: { query: { limit, ...(state && { state }), ...(tag && { tag }), ...(find && { find }) } },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  })
}

/** What a cart got when its proof last held, and what it gets now. */
export function useParting(id: string, wanted: boolean) {
  const { setup } = useWorkshop()
  return useQuery({
    queryKey: ['proofs', 'parting', setup.revision, id],
    queryFn: ({ signal }) =>
      answerOf(api.GET('/api/proofs/{id}/parting', { params: { path: { id } }, signal })),
    enabled: wanted,
    placeholderData: keepPreviousData,
  })
}

/** What one press does with proofs. */
export function useProofActs() {
  const { send } = useWorkshop()
  const { act } = useActs()
  const navigate = useNavigate()
  return useMemo(() => {
    const many = (
      what: 'accept' | 'record' | 'remove',
      which: Schemas['ProofIds'],
      about: string,
      said: (count: number) => string,
    ) =>
      act('/api/proofs', `${what} ${JSON.stringify(which)}`, about, async () => {
        await send(
          (to) => to.POST(`/api/proofs/${what}`, { body: which }),
          ({ count }) => said(count),
        )
      })
    return {
      /** Keeps a cart as it is, and what it gets, and opens it to be narrowed. */
      keep: (cart: Cart, at: string | null) =>
        act('/api/proofs', `keep ${JSON.stringify(cart)}`, 'Keep the cart as a proof', async () => {
          const made = await send((to) => to.POST('/api/proofs', { body: { cart, at } }), 'Kept the cart')
          void navigate(`/proofs#proof=${made.id}`)
        }),
      accept: (which: Schemas['ProofIds']) =>
        many('accept', which, 'What carts get now is right', (count) =>
          `What ${counted(count, 'cart')} gets now is right from now on`.replace(/carts gets/, 'carts get'),
        ),
      record: (which: Schemas['ProofIds']) =>
        many('record', which, 'Record what carriers say', () => 'Recorded what carriers say now'),
      remove: (which: Schemas['ProofIds']) =>
        many('remove', which, 'Remove proofs', (count) => `Removed ${counted(count, 'proof')}`),
    }
  }, [act, send, navigate])
}
