import { ApiProblem, type Rate, type Zone } from '../api/client'
import type { Edited } from '../edits/edited'
import { useWhole } from '../edits/whole'
import { FieldError } from '../ui/field-error'
import { PartPlaces } from '../zones/part-places'

/** A rate that holds in a part of its zone only: "collection within TR only". What can't be stored stays as typed. */
export function Narrowed({ of, zone }: { of: Edited<Rate>; zone: Zone }) {
  const areas = useWhole(of, 'areas', `Part of ${zone.name}`, {
    read: (rate) => rate.areas ?? [],
    write: (typed) => ({ areas: typed.length ? typed : null }),
  })
  const { problem } = areas
  return (
    <>
      <PartPlaces
        label="Part of the zone"
        areas={areas.shown}
        zone={zone}
        change={(next) => areas.commit(next)}
        errorAt={(pointer) => areas.errorAt(`/areas${pointer}`)}
      />
      {problem && !(problem instanceof ApiProblem && problem.problem.errors.length) && (
        <FieldError>{problem.message}</FieldError>
      )}
    </>
  )
}
