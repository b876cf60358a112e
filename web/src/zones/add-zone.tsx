import type { Zone } from '../api/client'
import { AddByName } from '../forms/add-by-name'

/** A new zone needs a name; its countries follow in the editor, which opens. */
export function AddZone({ added }: { added: (zone: Zone) => void }) {
  return (
    <AddByName
      kind="zones"
      what="zone"
      inputId="new-zone"
      className="px-3"
      draft={(name) => ({ name, areas: [] })}
      added={added}
    />
  )
}
