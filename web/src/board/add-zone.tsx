import { Plus } from 'lucide-react'
import { useState, type FormEvent } from 'react'
import { ApiProblem, call, type Zone } from '../api/client'
import { useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'

/** A new zone needs a name; its countries follow in the editor, which opens. */
export function AddZone({ added }: { added: (zone: Zone) => void }) {
  const { edit } = useWorkshop()
  const [name, setName] = useState('')
  const [error, setError] = useState<string | null>(null)
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    try {
      added(await edit(() => call<Zone>('POST', '/api/zones', { name, areas: [] })))
      setName('')
      setError(null)
    } catch (problem) {
      setError(problem instanceof ApiProblem ? problem.summary : (problem as Error).message)
    }
  }
  return (
    <form
      className="flex flex-wrap items-center gap-2 border-t border-edge px-3 py-3"
      onSubmit={(event) => void submit(event)}
    >
      <input
        id="new-zone"
        className="field w-56"
        aria-label="Name of a new zone"
        placeholder="Name of a new zone"
        value={name}
        aria-invalid={error ? true : undefined}
        onChange={(event) => {
          setName(event.target.value)
          setError(null)
        }}
      />
      <button type="submit" className="button">
        <Plus size={14} aria-hidden /> Add zone
      </button>
      {error && <FieldError>{error}</FieldError>}
    </form>
  )
}
