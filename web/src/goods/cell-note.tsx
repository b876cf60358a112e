import { Fault as Told } from '../ui/alerts'
import { FieldError } from '../ui/field-error'
import type { Fault } from './edited-cells'
import { Button } from '../ui/button'

interface Props {
  fault: Fault
  /** What stands there now. */
  now: string
  store: (text: string, sure: boolean) => void
  forget: () => void
}

/** What is wrong with a cell, right below it, and the ways out. */
export function CellNote({ fault, now, store, forget }: Props) {
  const { suggestion } = fault
  return (
    <div className="absolute top-full left-0 z-20 w-72 border border-brick bg-white p-2 whitespace-normal">
      {fault.code === 'stale' ? (
        <Told>
          Changed elsewhere meanwhile. There now: <b>{now || 'nothing'}</b>. You typed:{' '}
          <b>{fault.text || 'nothing'}</b>.
        </Told>
      ) : (
        <FieldError>{fault.detail}</FieldError>
      )}
      <p className="mt-1.5 flex flex-wrap gap-1.5">
        {suggestion && <Button onClick={() => store(suggestion, false)}>No, {suggestion}</Button>}
        {fault.code === 'doubtful_weight' && (
          <Button onClick={() => store(fault.text, true)}>Yes, it does</Button>
        )}
        {fault.code === 'stale' && <Button onClick={() => store(fault.text, false)}>Use mine</Button>}
        <Button look="quiet" onClick={forget}>
          Keep {now || 'what is there'}
        </Button>
      </p>
    </div>
  )
}
