import { useCallback } from 'react'
import { FieldError } from '../ui/field-error'
import { newSchedule, type ScheduleProps } from './draft'
import { type Schedule, type ScheduleOf } from '../words/measures'
import { GridEditor } from './grid-editor'
import { StepsEditor } from './steps-editor'
import { Select } from '../ui/select'
import { Input } from '../ui/input'

const KINDS: [Schedule['kind'], string][] = [
  ['flat', 'one amount'],
  ['first', 'first unit and each more'],
  ['steps', 'in steps'],
  ['grid', 'in a grid'],
]

/** Changes of a schedule that is still of this kind when they come. */
function useChange<K extends Schedule['kind']>(kind: K, change: ScheduleProps['change']) {
  return useCallback(
    (update: (old: ScheduleOf<K>) => ScheduleOf<K>) =>
      change((old) => (isKind(old, kind) ? update(old) : old)),
    [kind, change],
  )
}

function isKind<K extends Schedule['kind']>(schedule: Schedule, kind: K): schedule is ScheduleOf<K> {
  return schedule.kind === kind
}

/** What a schedule of another kind begins with. */
function firstAmount(schedule: Schedule): string {
  switch (schedule.kind) {
    case 'flat':
      return schedule.amount
    case 'first':
      return schedule.first
    case 'steps':
      return schedule.steps[0]?.amount ?? ''
    case 'grid':
      return schedule.cells[0]?.[0] ?? ''
  }
}

/** One schedule: what kind it is, and its figures. */
export function ScheduleEditor(props: ScheduleProps) {
  const { label, schedule, store, formats, change, commit, errorAt } = props
  const changeSteps = useChange('steps', change)
  const changeGrid = useChange('grid', change)
  const figure = (field: 'amount' | 'first' | 'additional', words: string, value: string) => (
    <label className="flex items-center gap-1.5">
      <span className="text-soft">{words}</span>
      <Input
        className="w-24"
        aria-label={`${label}: ${words || 'amount'}`}
        aria-invalid={errorAt(`/${field}`) ? true : undefined}
        inputMode="decimal"
        placeholder="not set"
        value={value}
        onChange={(event) => change((old) => ({ ...old, [field]: event.target.value }))}
        onBlur={() => commit()}
        onKeyDown={(event) => event.key === 'Enter' && commit()}
      />
    </label>
  )
  const choose = (kind: Schedule['kind']) => {
    const amount = firstAmount(schedule)
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
        {schedule.kind === 'flat' && figure('amount', formats.symbol, schedule.amount)}
        {schedule.kind === 'first' && (
          <>
            {figure('first', `first, ${formats.symbol}`, schedule.first)}
            {figure('additional', `each more, ${formats.symbol}`, schedule.additional)}
          </>
        )}
      </span>
      {problem && <FieldError>{problem}</FieldError>}
      {schedule.kind === 'steps' && <StepsEditor {...props} schedule={schedule} change={changeSteps} />}
      {schedule.kind === 'grid' && <GridEditor {...props} schedule={schedule} change={changeGrid} />}
    </div>
  )
}
