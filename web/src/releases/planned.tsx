import { useWorkshop } from '../edits/workshop'
import { useAct } from '../edits/use-act'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { timeWords } from '../ui/moment'
import { toast } from '../ui/toast'
import type { Publication } from './use-releases'

const MOMENT = {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
} as const

/** When something is due, on the store's clock. */
export function useDueWords() {
  const { setup } = useWorkshop()
  return (at: string) => timeWords(at, { ...MOMENT, timeZone: setup.store.time_zone })
}

/** A release that goes live at a moment, and the way to take that back. */
export function Planned({ of }: { of: Publication }) {
  const due = useDueWords()
  const withdrawal = useAct(`/api/publications/${of.id}`, 'withdraw', `Withdraw release ${of.release}`)
  const withdraw = () =>
    withdrawal.beside(
      (to) => to.DELETE('/api/publications/{id}', { params: { path: { id: String(of.id) } } }),
      () => toast(`Release ${of.release} is not planned any more`),
    )
  return (
    <p>
      Release {of.release} goes live <b>{due(of.due)}</b>
      {of.note && <span className="text-soft">: {of.note}</span>}{' '}
      <Button look="quiet" className="underline" disabled={withdrawal.busy} onClick={withdraw}>
        Withdraw
      </Button>
      {withdrawal.message && <FieldError>{withdrawal.message}</FieldError>}
    </p>
  )
}
