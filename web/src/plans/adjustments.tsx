import type { Plan } from '../api/client'
import { FieldError } from '../ui/field-error'
import { Fold } from '../ui/fold'
import { PerSelect } from './per-select'
import { Input } from '../ui/input'

interface Props {
  label: string
  plan: Plan
  symbol: string
  put: (plan: Plan) => void
  change: (update: (old: Plan) => Plan) => void
  commit: () => void
  errorAt: (pointer: string) => string | undefined
}

/** What is done to the sum of a plan, in the order in which it is done. */
export function Adjustments({ label, plan, symbol, put, change, commit, errorAt }: Props) {
  const figure = (field: 'minimum' | 'maximum' | 'ending', words: string) => (
    <label className="flex flex-col font-cond text-soft">
      {words}
      <Input
        className="w-20 font-sans"
        aria-label={`${label}: ${words}`}
        aria-invalid={errorAt(`/${field}`) ? true : undefined}
        placeholder="none"
        value={plan[field] ?? ''}
        onChange={(event) => change((old) => ({ ...old, [field]: event.target.value }))}
        onBlur={() => commit()}
        onKeyDown={(event) => event.key === 'Enter' && commit()}
      />
    </label>
  )
  const handling = (field: 'fixed' | 'percent', words: string) => (
    <label className="flex flex-col font-cond text-soft">
      {words}
      <Input
        className="w-20 font-sans"
        aria-label={`${label}: ${words}`}
        aria-invalid={errorAt(`/handling/${field}`) ? true : undefined}
        placeholder="none"
        value={plan.handling?.[field] ?? ''}
        onChange={(event) =>
          change((old) => ({ ...old, handling: { ...old.handling, [field]: event.target.value } }))
        }
        onBlur={() => commit()}
        onKeyDown={(event) => event.key === 'Enter' && commit()}
      />
    </label>
  )
  const adjustments = (['/minimum', '/maximum', '/ending', '/handling/fixed', '/handling/percent'] as const)
    .map(errorAt)
    .find(Boolean)
  const adjusted = Boolean(plan.handling ?? plan.minimum ?? plan.maximum ?? plan.ending)
  return (
    <Fold title="Handling, minimum, maximum, ending" open={adjusted}>
      <span className="flex flex-wrap items-end gap-3">
        {handling('fixed', `Handling, ${symbol}`)}
        {handling('percent', 'and percent')}
        <label className="flex flex-col font-cond text-soft">
          for each
          <PerSelect
            label={`${label}: handling for each`}
            per={plan.handling?.per}
            put={(per) => put({ ...plan, handling: { ...plan.handling, per } })}
          />
        </label>
        {figure('minimum', 'At least')}
        {figure('maximum', 'At most')}
        {figure('ending', 'Ending, like 0.95')}
      </span>
      {adjustments && <FieldError>{adjustments}</FieldError>}
    </Fold>
  )
}
