import { useCallback } from 'react'
import { FieldError } from '../ui/field'
import { newSchedule, type Schedule, type ScheduleProps } from './draft'
import { GridEditor } from './grid-editor'
import { StepsEditor } from './steps-editor'
import { Select } from '../ui/select'
import { Input } from '../ui/input'

const KINDS: [Schedule['kind'], string][] = [
  ['flat', 'one amount'],
  ['first', 'a first and each additional unit'],
  ['steps', 'in steps'],
  ['grid', 'in a grid'],
]

/** One schedule: what kind it is, and its figures. */
export function ScheduleEditor(props: ScheduleProps) {
  const { label, schedule, store, formats, change, commit, errorAt } = props
  const set = useCallback((fields: Partial<Schedule>) => change((old) => ({ ...old, ...fields })), [change])
  const figure = (field: 'amount' | 'first' | 'additional', words: string) => (
    <label className="flex items-center gap-1.5">
      <span className="text-soft">{words}</span>
      <Input
        className="w-24"
        aria-label={`${label}: ${words || 'amount'}`}
        aria-invalid={errorAt(`/${field}`) ? true : undefined}
        inputMode="decimal"
        placeholder="not set"
        value={schedule[field] ?? ''}
        onChange={(event) => set({ [field]: event.target.value })}
        onBlur={() => commit()}
        onKeyDown={(event) => event.key === 'Enter' && commit()}
      />
    </label>
  )
  const choose = (kind: Schedule['kind']) => {
    const amount = schedule.amount ?? schedule.first ?? schedule.steps?.[0]?.amount ?? ''
    const next = newSchedule(kind, store, amount)
    change(() => next)
    if (amount && kind !== 'first') commit(next)
  }
  const problem = errorAt('/amount') ?? errorAt('/first') ?? errorAt('/additional')
  return (
    <div className="flex flex-col gap-1.5">
      <span className="flex flex-wrap items-center gap-3">
        <Select
          label={`${label}: kind of price`}
          value={schedule.kind}
          choices={KINDS}
          choose={(value) => choose(value)}
        />
        {schedule.kind === 'flat' && figure('amount', formats.symbol)}
        {schedule.kind === 'first' && (
          <>
            {figure('first', `first, ${formats.symbol}`)}
            {figure('additional', `each more, ${formats.symbol}`)}
          </>
        )}
      </span>
      {problem && <FieldError>{problem}</FieldError>}
      {schedule.kind === 'steps' && <StepsEditor {...props} />}
      {schedule.kind === 'grid' && <GridEditor {...props} />}
    </div>
  )
}
