import { keysOf } from '../api/shapes'
import { X } from 'lucide-react'
import type { Condition } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { Texts } from '../offers/goods-choice'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { Select } from '../ui/select'
import {
  Bounds,
  ClockField,
  Fault,
  Lines,
  Listed,
  Places,
  WhichAddress,
  type Props,
  type Saying,
} from './condition-parts'
import { FACTS, type Fact } from '../words/rules'

/** A condition on another fact, as it begins. */
function blank(fact: Fact, home: string): Condition {
  switch (fact) {
    case 'value':
    case 'weight':
    case 'quantity':
    case 'longest':
      return { fact, from: '' }
    case 'class':
    case 'tag':
    case 'product':
      return { fact, of: [], lines: 'any' }
    case 'hazard':
      return { fact, lines: 'any' }
    case 'zone':
    case 'group':
    case 'coupon':
    case 'weekday':
    case 'country':
      return { fact, of: [] }
    case 'region':
    case 'postcode':
      return { fact, country: home, of: [] }
    case 'time':
      return { fact, from: '', until: '' }
    case 'date':
      return { fact, first: '' }
    case 'po_box':
      return { fact }
  }
}

const ALL_FACTS = keysOf(FACTS)

/** Whether a condition says enough to be stored. */
const complete = (condition: Condition) =>
  'of' in condition ? condition.of.length > 0 : (FACTS[condition.fact].alone ?? false)

export function ConditionEditor({ condition, change, put, commit, errorAt, remove }: Props) {
  const { setup } = useWorkshop()
  /** What can't be stored yet is only shown. */
  const send = (next: Condition) => (complete(next) ? put(next) : change(next))
  return (
    <div className="flex flex-wrap items-start gap-x-2 gap-y-1">
      <Select
        label="Fact"
        value={condition.fact}
        choices={ALL_FACTS.map((one) => [one, FACTS[one].label] as const)}
        choose={(fact) => send(blank(fact, setup.store.country))}
      />
      <Says condition={condition} change={change} put={put} commit={commit} errorAt={errorAt} send={send} />
      <Button look="quiet" className="px-1" aria-label="Remove this condition" onClick={remove}>
        <X size={13} aria-hidden />
      </Button>
      {errorAt('/fact') && <FieldError>{errorAt('/fact')}</FieldError>}
    </div>
  )
}

/** What a condition says about its fact. */
function Says({ condition, ...editing }: Saying<Condition>) {
  const { send } = editing
  switch (condition.fact) {
    case 'value':
    case 'weight':
    case 'quantity':
    case 'longest':
      return <Bounds condition={condition} {...editing} />
    case 'class':
      return (
        <>
          <Listed condition={condition} {...editing} />
          <Lines condition={condition} {...editing} />
        </>
      )
    case 'tag':
    case 'product':
      return (
        <>
          <Texts
            key={condition.of.join()}
            label={condition.fact === 'tag' ? 'Tags' : 'SKUs'}
            placeholder="commas between"
            texts={condition.of.map(String)}
            put={(of) => send({ ...condition, of })}
          />
          <Fault of={editing} />
          <Lines condition={condition} {...editing} />
        </>
      )
    case 'hazard':
      return <Lines condition={condition} {...editing} />
    case 'zone':
    case 'group':
    case 'coupon':
    case 'weekday':
      return <Listed condition={condition} {...editing} />
    case 'time':
      return (
        <>
          <ClockField
            label="from"
            type="time"
            value={condition.from}
            error={editing.errorAt('/from')}
            change={(from) => editing.change({ ...condition, from })}
            commit={editing.commit}
          />
          <ClockField
            label="until just before"
            type="time"
            value={condition.until}
            error={editing.errorAt('/until')}
            change={(until) => editing.change({ ...condition, until })}
            commit={editing.commit}
          />
        </>
      )
    case 'date': {
      const { first, last, fact } = condition
      const write = (days: { first: string | undefined; last: string | undefined }) =>
        editing.change({
          fact,
          ...(days.first ? { first: days.first } : {}),
          ...(days.last ? { last: days.last } : {}),
        })
      return (
        <>
          <ClockField
            label="from"
            type="date"
            value={first ?? ''}
            error={editing.errorAt('/first')}
            change={(day) => write({ first: day, last })}
            commit={editing.commit}
          />
          <ClockField
            label="to the end of"
            type="date"
            value={last ?? ''}
            error={editing.errorAt('/last')}
            change={(day) => write({ first, last: day })}
            commit={editing.commit}
          />
        </>
      )
    }
    case 'country':
    case 'region':
    case 'postcode':
      return (
        <>
          <Places condition={condition} {...editing} />
          <WhichAddress condition={condition} {...editing} />
        </>
      )
    case 'po_box':
      return <WhichAddress condition={condition} {...editing} />
  }
}
