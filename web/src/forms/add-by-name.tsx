import { Plus } from 'lucide-react'
import type { DocOf, DraftOf, Kind } from '../api/kinds'
import { useMade } from '../edits/made'
import { FieldError } from '../ui/field-error'
import { Input } from '../ui/input'
import { Button } from '../ui/button'

interface Props<K extends Kind> {
  kind: K
  /** e.g. "zone" */
  what: string
  inputId: string
  className?: string
  /** What is added; only its name where this is left out. */
  draft?: (name: string) => DraftOf<K>
  added?: (made: DocOf<K>) => void
}

/** A field and a button for something that needs only a name to begin with. */
export function AddByName<K extends Kind>({ kind, what, inputId, className, draft, added }: Props<K>) {
  const made = useMade(
    kind,
    `New ${what}`,
    { name: '' },
    ({ name }) => draft?.(name) ?? ({ name } as DraftOf<K>),
    added,
  )
  return (
    <form
      className={`flex flex-wrap items-center gap-2 border-t border-edge py-3 ${className ?? ''}`}
      onSubmit={(event) => {
        event.preventDefault()
        made.add()
      }}
    >
      <Input
        id={inputId}
        className="w-56"
        aria-label={`Name of a new ${what}`}
        placeholder={`Name of a new ${what}`}
        value={made.doc.name}
        aria-invalid={made.problem ? true : undefined}
        onChange={(event) => made.type({ name: event.target.value })}
      />
      <Button type="submit">
        <Plus size={14} aria-hidden /> Add {what}
      </Button>
      {made.problem && <FieldError>{made.problem}</FieldError>}
    </form>
  )
}
