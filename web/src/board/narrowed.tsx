import { useState } from 'react'
import { ApiProblem, type Rate, type Zone } from '../api/client'
import { FieldError } from '../ui/field'
import { PartPlaces, type AreaDocument } from '../zones/part-places'

interface Props {
  rate: Rate
  zone: Zone
  save: (areas: AreaDocument[] | null, version: number) => Promise<unknown>
}

/** A rate that holds in a part of its zone only: "collection within TR only". What can't be stored stays as typed. */
export function Narrowed({ rate, zone, save }: Props) {
  const [draft, setDraft] = useState<AreaDocument[] | null>(null)
  const [problem, setProblem] = useState<Error | null>(null)
  const keep = async (areas: AreaDocument[]) => {
    setDraft(areas)
    try {
      await save(areas.length ? areas : null, rate.lock_version)
      setDraft(null)
      setProblem(null)
    } catch (error) {
      setProblem(error as Error)
    }
  }
  const told = problem instanceof ApiProblem ? problem : null
  return (
    <>
      <PartPlaces
        label="Part of the zone"
        areas={draft ?? rate.areas ?? []}
        zone={zone}
        change={(areas) => void keep(areas)}
        errorAt={(pointer) => told?.at(`/areas${pointer}`)}
      />
      {problem && !told?.problem.errors.length && <FieldError>{problem.message}</FieldError>}
    </>
  )
}
