import { ChevronDown, ChevronRight, X } from 'lucide-react'
import { useState } from 'react'
import type { Area, Zone } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useGeography } from '../setup/queries'
import { useActs } from '../edits/acts'
import { AddPlaces } from './add-places'
import { ClausesEditor } from './clauses-editor'
import { RegionsEditor } from './regions-editor'
import { areaSentence } from '../words/zones'
import { Button } from '../ui/button'

/** What a zone covers: each area as a sentence that opens into its regions and postcodes. */
export function Areas({ zone }: { zone: Zone }) {
  const [open, setOpen] = useState<string | null>(null)
  return (
    <div className="flex w-full flex-col gap-1.5">
      <span className="font-cond text-soft">Covers</span>
      {zone.areas.length === 0 && <p className="text-soft">Nothing yet: no address lands here.</p>}
      <ul aria-label={`Places in ${zone.name}`} className={open ? '' : 'max-h-96 overflow-y-auto'}>
        {zone.areas.map((area) => (
          <Row
            key={area.id}
            zone={zone}
            area={area}
            open={open === area.id}
            toggle={() => setOpen(open === area.id ? null : area.id)}
          />
        ))}
      </ul>
      <AddPlaces zone={zone} />
    </div>
  )
}

function Row({ zone, area, open, toggle }: { zone: Zone; area: Area; open: boolean; toggle: () => void }) {
  const { send } = useWorkshop()
  const { act } = useActs()
  const { data: geography } = useGeography()
  const sentence = areaSentence(area, geography)
  const remove = () =>
    act(
      `/api/zones/${zone.id}`,
      `without ${area.id}`,
      `Take ${sentence} out of ${zone.name}`,
      (_, { lock_version = 0 }) =>
        send((to) =>
          to.DELETE('/api/areas/{id}', { params: { path: { id: area.id }, query: { lock_version } } }),
        ),
      zone,
    )
  return (
    <li className="border-t border-hair">
      <div className="flex items-center gap-1">
        {area.kind === 'world' ? (
          <span className="flex-1 py-1 pl-5">{sentence}: every country that no zone names</span>
        ) : (
          <Button
            look="bare"
            className="flex min-h-7 flex-1 items-center gap-1 text-left hover:underline"
            aria-expanded={open}
            onClick={toggle}
          >
            {open ? <ChevronDown size={14} aria-hidden /> : <ChevronRight size={14} aria-hidden />}
            {sentence}
          </Button>
        )}
        <Button look="quiet" aria-label={`Take ${sentence} out of ${zone.name}`} onClick={remove}>
          <X size={13} aria-hidden />
        </Button>
      </div>
      {open && area.country && (
        <div className="mb-2 ml-5 flex flex-col gap-3 border-l border-edge pl-3">
          {(geography?.regions[area.country]?.length ?? 0) > 0 && (
            <RegionsEditor key={area.regions.join()} zone={zone} area={area} />
          )}
          <ClausesEditor zone={zone} area={area} list="only" />
          <ClausesEditor zone={zone} area={area} list="except" />
        </div>
      )}
    </li>
  )
}
