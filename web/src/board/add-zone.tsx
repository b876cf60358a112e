import { call, type Zone } from '../api/client'
import { useWorkshop } from '../api/setup'
import { AddByName } from '../ui/add-by-name'

/** A new zone needs a name; its countries follow in the editor, which opens. */
export function AddZone({ added }: { added: (zone: Zone) => void }) {
  const { edit } = useWorkshop()
  return (
    <AddByName
      what="zone"
      inputId="new-zone"
      className="px-3"
      add={async (name) => added(await edit(() => call<Zone>('POST', '/api/zones', { name, areas: [] })))}
    />
  )
}
