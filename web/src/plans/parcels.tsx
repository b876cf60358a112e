import { useState } from 'react'
import type { Schemas } from '../api/client'
import { FieldError } from '../ui/field'

/** How goods become parcels here, where it is not as the shop says. */
export function Parcels({
  parcels,
  put,
  errorAt,
  own = false,
}: {
  parcels: Schemas['Parcels'] | undefined
  put: (parcels: Schemas['Parcels'] | undefined) => void
  errorAt: (pointer: string) => string | undefined
  /** The shop's own policy: there is always one. */
  own?: boolean
}) {
  const [draft, setDraft] = useState<Schemas['Parcels'] | null>(null)
  const shown = draft ?? parcels
  const set = (fields: Partial<Schemas['Parcels']>) => shown && setDraft({ ...shown, ...fields })
  const keep = () => {
    if (!draft) return
    const tidy = Object.fromEntries(
      Object.entries(draft).filter(([, value]) => value !== ''),
    ) as Schemas['Parcels']
    put(tidy)
    setDraft(null)
  }
  const figure = (field: 'up_to' | 'tare' | 'divisor', words: string, hint: string) => (
    <label className="flex flex-col font-cond text-soft">
      {words}
      <input
        className="field w-24 font-sans"
        placeholder={hint}
        aria-invalid={errorAt(`/parcels/${field}`) ? true : undefined}
        value={shown?.[field] ?? ''}
        onChange={(event) => set({ [field]: event.target.value })}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
    </label>
  )
  const problem = ['', '/up_to', '/tare', '/divisor', '/size']
    .map((at) => errorAt(`/parcels${at}`))
    .find(Boolean)
  return (
    <span className="flex flex-wrap items-end gap-3">
      <label className="flex flex-col font-cond text-soft">
        Parcels
        <select
          className="field font-sans"
          value={shown?.kind ?? ''}
          onChange={(event) => {
            const kind = event.target.value as Schemas['Parcels']['kind'] | ''
            if (!kind) return put(undefined)
            const size =
              kind === 'fixed' ? { size: { length: '30 cm', width: '20 cm', height: '15 cm' } } : {}
            put({ kind, ...(shown?.divisor ? { divisor: shown.divisor } : {}), ...size })
          }}
        >
          {!own && <option value="">as the shop’s</option>}
          <option value="one">all in one</option>
          <option value="unit">one for each unit</option>
          <option value="fixed">one of a fixed size</option>
          <option value="boxes">packed into boxes</option>
        </select>
      </label>
      {shown?.kind === 'one' && figure('up_to', 'up to', 'any weight')}
      {shown?.kind === 'fixed' && (
        <>
          {(['length', 'width', 'height'] as const).map((side) => (
            <label key={side} className="flex flex-col font-cond text-soft">
              {side}
              <input
                className="field w-20 font-sans"
                value={shown.size?.[side] ?? ''}
                onChange={(event) => set({ size: { ...shown.size!, [side]: event.target.value } })}
                onBlur={keep}
              />
            </label>
          ))}
          {figure('tare', 'packing weighs', 'nothing')}
        </>
      )}
      {shown && figure('divisor', 'volumetric divisor', 'none')}
      {shown?.divisor && (
        <select
          className="field"
          aria-label="Divisor in"
          value={shown.per ?? 'kg'}
          onChange={(event) => put({ ...shown, per: event.target.value as 'kg' | 'lb' })}
        >
          <option value="kg">cm³ for a kg</option>
          <option value="lb">in³ for a lb</option>
        </select>
      )}
      {problem && <FieldError>{problem}</FieldError>}
    </span>
  )
}
