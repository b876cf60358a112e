import { call, type Zone } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useTold } from '../board/edits'
import { Field } from '../ui/field'
import { formatsOf } from '../ui/format'

type Duty = NonNullable<Zone['duty']>

/** What is due at the border of a zone, as an estimate beside each of its methods. */
export function DutyEditor({ zone }: { zone: Zone }) {
  const { setup, edit } = useWorkshop()
  const told = useTold()
  const { symbol } = formatsOf(setup.store!)
  const duty = zone.duty ?? null
  const patch = (next: Duty | null, version = zone.lock_version) =>
    call('PATCH', `/api/zones/${zone.id}`, { duty: next, lock_version: version })
  const check = (field: 'carriage' | 'included', label: string) => (
    <label className="flex items-center gap-1.5">
      <input
        type="checkbox"
        checked={duty?.[field] ?? false}
        disabled={!duty}
        onChange={(event) => duty && void told('', () => patch({ ...duty, [field]: event.target.checked }))}
      />
      {label}
    </label>
  )
  return (
    <fieldset className="flex flex-wrap items-start gap-x-4 gap-y-1">
      <legend className="font-cond text-soft">Duty and import tax, an estimate</legend>
      <Field
        label="Percent"
        width="w-16"
        placeholder="none"
        inputMode="decimal"
        value={duty?.percent ?? ''}
        version={zone.lock_version}
        pointer="/duty"
        save={(percent, version) =>
          edit(() => patch(percent.trim() ? { ...duty, percent: percent.trim() } : null, version))
        }
        read={(current) => (current as Zone).duty?.percent ?? ''}
      />
      {duty && (
        <Field
          label={`None on goods below, ${symbol}`}
          width="w-20"
          placeholder="always"
          inputMode="decimal"
          value={duty.below ?? ''}
          version={zone.lock_version}
          pointer="/duty/below"
          save={(below, version) => {
            const { below: _, ...rest } = duty
            return edit(() => patch(below.trim() ? { ...rest, below: below.trim() } : rest, version))
          }}
          read={(current) => (current as Zone).duty?.below ?? ''}
        />
      )}
      <span className="flex flex-col pt-5">
        {check('carriage', 'on the shipping too')}
        {check('included', 'you bear it: the shopper reads “included”')}
      </span>
    </fieldset>
  )
}
