import type { Method, Zone } from '../api/client'
import { useMade } from '../edits/made'
import { FieldError } from '../ui/field-error'
import type { Formats } from '../ui/format'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

const NEW = 'new'
const BLANK = { method: '', name: '', amount: '' }

/** A method for a zone: one that there is, or a new one, with its flat price. */
export function AddRateForm({
  zone,
  methods,
  formats,
  close,
}: {
  zone: Zone
  methods: Method[]
  formats: Formats
  close: () => void
}) {
  const first = methods[0]?.id ?? NEW
  const made = useMade(
    'rates',
    `Another method in ${zone.name}`,
    BLANK,
    ({ method, name, amount }) => ({
      zone: zone.id,
      plan: amount.trim() ? { schedule: { kind: 'flat', amount: amount.trim() } } : null,
      ...((method || first) === NEW ? { new_method: { name } } : { method: method || first }),
    }),
    close,
    zone.id,
  )
  const { name, amount } = made.doc
  const chosen = made.doc.method || first

  const nameError =
    made.problemAt('/new_method/name') ?? made.problemAt('/new_method/code') ?? made.problemAt('/method')
  const amountError = made.problemAt('/plan')
  const other = nameError || amountError ? null : made.problem
  return (
    <form
      className="my-2 flex flex-wrap items-start gap-x-4 gap-y-2 border-l-4 border-ink bg-paper px-3 py-3"
      onSubmit={(event) => {
        event.preventDefault()
        made.add()
      }}
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      <label className="flex flex-col gap-1">
        <span className="font-cond text-soft">Method</span>
        <Select
          label="Method"
          autoFocus
          value={chosen}
          choices={[
            ...methods.map((candidate) => [candidate.id, candidate.name] as const),
            [NEW, 'A new method …'],
          ]}
          choose={(value) => made.type({ method: value })}
        />
        {chosen !== NEW && nameError && <FieldError>{nameError}</FieldError>}
      </label>
      {chosen === NEW && (
        <label className="flex flex-col gap-1">
          <span className="font-cond text-soft">Its name</span>
          <Input
            className="w-52"
            value={name}
            aria-invalid={nameError ? true : undefined}
            onChange={(event) => made.type({ name: event.target.value })}
          />
          {nameError && <FieldError>{nameError}</FieldError>}
        </label>
      )}
      <label className="flex flex-col gap-1">
        <span className="font-cond text-soft">Flat price in {formats.symbol}</span>
        <Input
          className="w-28"
          inputMode="decimal"
          placeholder="not set"
          value={amount}
          aria-invalid={amountError ? true : undefined}
          onChange={(event) => made.type({ amount: event.target.value })}
        />
        {amountError && <FieldError>{amountError}</FieldError>}
      </label>
      <div className="flex gap-2 pt-5">
        <Button type="submit" className="border-ink font-semibold">
          Add
        </Button>
        <Button look="quiet" onClick={close}>
          Cancel
        </Button>
      </div>
      {other && <FieldError>{other}</FieldError>}
    </form>
  )
}
