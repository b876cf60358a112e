import type { Zone } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useEdited } from '../edits/edited'
import { Field } from '../forms/field'
import { formatsOf } from '../ui/format'
import { Tick } from '../ui/tick'

/** What is due at the border of a zone, as an estimate beside each of its methods. */
export function DutyEditor({ zone }: { zone: Zone }) {
  const { setup } = useWorkshop()
  const edited = useEdited('zones', zone)
  const { symbol } = formatsOf(setup.store)
  const duty = edited.doc.duty ?? null
  const check = (field: 'carriage' | 'included', label: string) => (
    <Tick
      on={duty?.[field] ?? false}
      disabled={!duty}
      change={(on) => {
        edited.put(`duty ${field}`, `Duty of ${zone.name}: ${label}`, (doc) => ({
          duty: doc.duty ? { ...doc.duty, [field]: on } : null,
        }))
      }}
    >
      {label}
    </Tick>
  )
  return (
    <fieldset className="flex flex-wrap items-start gap-x-4 gap-y-1">
      <legend className="font-cond text-soft">Duty and import tax, an estimate</legend>
      <Field
        of={edited}
        at="duty percent"
        label="Percent"
        width="w-16"
        placeholder="none"
        inputMode="decimal"
        pointer="/duty"
        value={(doc) => doc.duty?.percent ?? ''}
        write={(text, doc) => ({ duty: text.trim() ? { ...doc.duty, percent: text.trim() } : null })}
      />
      {duty && (
        <Field
          of={edited}
          at="duty below"
          label={`None on goods below, ${symbol}`}
          width="w-20"
          placeholder="always"
          inputMode="decimal"
          pointer="/duty/below"
          value={(doc) => doc.duty?.below ?? ''}
          write={(text, { duty }) => {
            if (!duty) return { duty: null }
            const { below: _, ...rest } = duty
            return { duty: text.trim() ? { ...rest, below: text.trim() } : rest }
          }}
        />
      )}
      <span className="flex flex-col pt-5">
        {check('carriage', 'on the shipping too')}
        {check('included', 'you bear it: the shopper reads “included”')}
      </span>
    </fieldset>
  )
}
