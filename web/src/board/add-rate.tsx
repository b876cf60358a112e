import { Plus } from 'lucide-react'
import { useState, type FormEvent } from 'react'
import { ApiProblem, call, type Method, type Rate, type Zone } from '../api/client'
import { useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import type { Formats } from '../ui/format'

const NEW = 'new'

/** Puts a method into a zone: one that there is, or a new one, with its flat price. */
export function AddRate({ zone, methods, formats }: { zone: Zone; methods: Method[]; formats: Formats }) {
  const { edit } = useWorkshop()
  const [open, setOpen] = useState(false)
  const [method, setMethod] = useState('')
  const [name, setName] = useState('')
  const [amount, setAmount] = useState('')
  const [problem, setProblem] = useState<Error | null>(null)
  const chosen = method || methods[0]?.id || NEW

  const submit = async (event: FormEvent) => {
    event.preventDefault()
    const plan = amount.trim() ? { schedule: { kind: 'flat', amount: amount.trim() } } : null
    const which = chosen === NEW ? { new_method: { name } } : { method: chosen }
    try {
      await edit(() => call<Rate>('POST', '/api/rates', { zone: zone.id, plan, ...which }))
      setOpen(false)
      setMethod('')
      setName('')
      setAmount('')
      setProblem(null)
    } catch (error) {
      setProblem(error as Error)
    }
  }

  if (!open)
    return (
      <button type="button" className="quiet my-1 -ml-1.5" onClick={() => setOpen(true)}>
        <Plus size={14} aria-hidden /> Add a method<span className="sr-only"> to {zone.name}</span>
      </button>
    )
  const at = (pointer: string) => (problem instanceof ApiProblem ? problem.at(pointer) : undefined)
  const nameError = at('/new_method/name') ?? at('/new_method/code') ?? at('/method')
  const amountError = at('/plan')
  const other = problem && !nameError && !amountError ? problem.message : undefined
  return (
    <form
      className="my-2 flex flex-wrap items-start gap-x-4 gap-y-2 border-l-4 border-ink bg-paper px-3 py-3"
      onSubmit={(event) => void submit(event)}
      onKeyDown={(event) => event.key === 'Escape' && setOpen(false)}
    >
      <label className="flex flex-col gap-1">
        <span className="font-cond text-soft">Method</span>
        <select
          autoFocus
          className="field"
          value={chosen}
          onChange={(event) => setMethod(event.target.value)}
        >
          {methods.map((candidate) => (
            <option key={candidate.id} value={candidate.id}>
              {candidate.name}
            </option>
          ))}
          <option value={NEW}>A new method …</option>
        </select>
        {chosen !== NEW && nameError && <FieldError>{nameError}</FieldError>}
      </label>
      {chosen === NEW && (
        <label className="flex flex-col gap-1">
          <span className="font-cond text-soft">Its name</span>
          <input
            className="field w-52"
            value={name}
            aria-invalid={nameError ? true : undefined}
            onChange={(event) => setName(event.target.value)}
          />
          {nameError && <FieldError>{nameError}</FieldError>}
        </label>
      )}
      <label className="flex flex-col gap-1">
        <span className="font-cond text-soft">Flat price in {formats.symbol}</span>
        <input
          className="field w-28"
          inputMode="decimal"
          placeholder="not set"
          value={amount}
          aria-invalid={amountError ? true : undefined}
          onChange={(event) => setAmount(event.target.value)}
        />
        {amountError && <FieldError>{amountError}</FieldError>}
      </label>
      <div className="flex gap-2 pt-5">
        <button type="submit" className="button border-ink font-semibold">
          Add it
        </button>
        <button type="button" className="quiet" onClick={() => setOpen(false)}>
          Leave it
        </button>
      </div>
      {other && <FieldError>{other}</FieldError>}
    </form>
  )
}
