import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useNavigate } from 'react-router'
import { api, answerOf, messageOf, type Cart, type Proof, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { toast } from '../ui/toast'
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
  const { edit, send, undo } = useWorkshop()
  const navigate = useNavigate()
  return useMemo(() => {
    const many = async (
      what: 'accept' | 'record' | 'remove',
      which: Schemas['ProofIds'],
      said: (count: number) => string,
    ) => {
      try {
        const { count } = await edit(() => answerOf(api.POST(`/api/proofs/${what}`, { body: which })))
        toast(said(count), { action: { label: 'Undo', onClick: () => void undo() } })
      } catch (problem) {
        toast.error(messageOf(problem))
      }
    }
    return {
      /** Keeps a cart as it is, and what it gets, and opens it to be narrowed. */
      keep: async (cart: Cart, at: string | null) => {
        try {
          const made = await send<Proof>('POST', '/api/proofs', { cart, at }, 'Kept the cart')
          void navigate(`/proofs#proof=${made.id}`)
        } catch (problem) {
          toast.error(messageOf(problem))
        }
      },
      accept: (which: Schemas['ProofIds']) =>
        many('accept', which, (count) =>
          `What ${counted(count, 'cart')} gets now is right from now on`.replace(/carts gets/, 'carts get'),
        ),
      record: (which: Schemas['ProofIds']) => many('record', which, () => 'Recorded what carriers say now'),
      remove: (which: Schemas['ProofIds']) =>
        many('remove', which, (count) => `Removed ${counted(count, 'proof')}`),
    }
  }, [edit, send, undo, navigate])
}
