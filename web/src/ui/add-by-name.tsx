import { Plus } from 'lucide-react'
import { useState, type FormEvent } from 'react'
import { ApiProblem } from '../api/client'
import { FieldError } from './field'

interface Props {
  /** e.g. "zone" */
  what: string
  inputId: string
  className?: string
  add: (name: string) => Promise<unknown>
}

/** A field and a button for something that needs only a name to begin with. */
export function AddByName({ what, inputId, className, add }: Props) {
  const [name, setName] = useState('')
  const [error, setError] = useState<string | null>(null)
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    try {
      await add(name)
      setName('')
      setError(null)
    } catch (problem) {
      setError(problem instanceof ApiProblem ? problem.summary : (problem as Error).message)
    }
  }
  return (
    <form
      className={`flex flex-wrap items-center gap-2 border-t border-edge py-3 ${className ?? ''}`}
      onSubmit={(event) => void submit(event)}
    >
      <input
        id={inputId}
        className="field w-56"
        aria-label={`Name of a new ${what}`}
        placeholder={`Name of a new ${what}`}
        value={name}
        aria-invalid={error ? true : undefined}
        onChange={(event) => {
          setName(event.target.value)
          setError(null)
        }}
      />
      <button type="submit" className="button">
        <Plus size={14} aria-hidden /> Add {what}
      </button>
      {error && <FieldError>{error}</FieldError>}
    </form>
  )
}
