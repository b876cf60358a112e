import { useState } from 'react'
import { ApiProblem, type Rate, type Schemas, type Zone } from '../api/client'
import { FieldError } from '../ui/field'
import { countryName } from '../ui/format'

type AreaDocument = Schemas['AreaDocument']

interface Props {
  rate: Rate
  zone: Zone
  save: (areas: AreaDocument[] | null, version: number) => Promise<unknown>
}

/** A rate that holds in a part of its zone only, by postcodes: "collection within TR only". */
export function Narrowed({ rate, zone, save }: Props) {
  const countries = [...new Set(zone.areas.map((area) => area.country).filter((code) => code !== null))]
  const area = rate.areas?.[0]
  const [country, setCountry] = useState(area?.country ?? countries[0] ?? '')
  const stored = (area?.only ?? []).join(', ')
  const [text, setText] = useState<string | null>(null)
  const [problem, setProblem] = useState<Error | null>(null)
  const keep = async (typed: string, where: string) => {
    const only = typed
      .split(/[,;\n]/)
      .map((clause) => clause.trim())
      .filter(Boolean)
    try {
      await save(only.length && where ? [{ kind: 'country', country: where, only }] : null, rate.lock_version)
      setText(null)
      setProblem(null)
    } catch (error) {
      setProblem(error as Error)
    }
  }
  const errors = problem instanceof ApiProblem ? problem.problem.errors : []
  return (
    <div className="flex flex-col gap-1">
      <span className="flex flex-wrap items-center gap-2">
        {countries.length > 1 && (
          <select
            className="field"
            aria-label="Country of the part"
            value={country}
            onChange={(event) => {
              setCountry(event.target.value)
              if (stored) void keep(stored, event.target.value)
            }}
          >
            {countries.map((code) => (
              <option key={code} value={code}>
                {countryName(code)}
              </option>
            ))}
          </select>
        )}
        <input
          className="field w-80"
          aria-label="Only these postcodes of the zone"
          placeholder="postcodes, such as TR, PL1 to PL34; empty for the whole zone"
          aria-invalid={problem ? true : undefined}
          value={text ?? stored}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => text !== null && text !== stored && void keep(text, country)}
          onKeyDown={(event) => event.key === 'Enter' && text !== null && void keep(text, country)}
        />
      </span>
      {errors.map((error) => (
        <FieldError key={error.pointer}>
          Number {Number(error.pointer.split('/').pop()) + 1 || ''}: {error.detail}
        </FieldError>
      ))}
      {problem && errors.length === 0 && <FieldError>{problem.message}</FieldError>}
    </div>
  )
}
