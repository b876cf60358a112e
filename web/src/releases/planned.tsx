import { answerOf, api } from '../api/client'
import { useWorkshop } from '../api/setup'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field'
import { timeWords } from '../ui/moment'
import { toast } from '../ui/toast'
import { useDoing, type Publication } from './use-releases'

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
  return (at: string) => timeWords(at, { ...MOMENT, timeZone: setup.store!.time_zone! })
}

/** A release that goes live at a moment, and the way to take that back. */
export function Planned({ of }: { of: Publication }) {
  const due = useDueWords()
  const doing = useDoing()
  const withdraw = async () => {
    const done = await doing.run(async () => {
      await answerOf(api.DELETE('/api/publications/{id}', { params: { path: { id: String(of.id) } } }))
      return true
    })
    if (done) toast(`Release ${of.release} is not planned any more`)
  }
  return (
    <p>
      Release {of.release} goes live <b>{due(of.due)}</b>
      {of.note && <span className="text-soft">: {of.note}</span>}{' '}
      <Button look="quiet" className="underline" disabled={doing.busy} onClick={() => void withdraw()}>
        Withdraw
      </Button>
      {doing.error && <FieldError>{doing.error.message}</FieldError>}
    </p>
  )
}
