import { useWorkshop } from '../edits/workshop'
import { Some } from '../ui/choose'

interface Places {
  zones?: string[] | null
  methods?: string[] | null
}

/** The zones and methods that something is limited to. */
export function Where({
  of,
  put,
  errorAt,
}: {
  of: Places
  put: (fields: Places) => void
  errorAt: (pointer: string) => string | undefined
}) {
  const { setup } = useWorkshop()
  return (
    <div className="flex flex-wrap gap-x-8 gap-y-2">
      <Some
        label="Zones"
        all="In every zone"
        these="Only in these"
        list={setup.zones}
        chosen={of.zones ?? null}
        put={(zones) => put({ zones })}
        error={errorAt('/zones')}
      />
      <Some
        label="Methods"
        all="With every method"
        these="Only with these"
        list={setup.methods}
        chosen={of.methods ?? null}
        put={(methods) => put({ methods })}
        error={errorAt('/methods')}
      />
    </div>
  )
}
