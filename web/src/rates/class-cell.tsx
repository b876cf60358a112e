import { Link } from 'react-router'
import { call, type Plan, type Rate } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useTold } from '../board/edits'
import { useBenchResult } from '../bench/result'
import type { ClassPrice } from '../plans/draft'
import { scheduleWords } from '../plans/words'
import { Field } from '../ui/field'
import { formatsOf } from '../ui/format'
import { OTHERS, pointerOf, priceOf, withPrice, type Group } from './class-groups'

const CHARGES = [
  ['once', 'once'],
  ['unit', 'a unit'],
  ['no', 'not carried'],
  ['else', 'as the rest'],
] as const

interface Props {
  rate: Rate
  plan: Plan
  group: Group
  name: string
}

/** How one class is charged by one rate: once, for each unit, not carried, or as everything else. */
export function ClassCell({ rate, plan, group, name }: Props) {
  const { setup, edit } = useWorkshop()
  const { setPreview } = useBenchResult()
  const told = useTold()
  const formats = formatsOf(setup.store!)
  const price = priceOf(plan, group)
  const patch = (next: Plan, version: number) =>
    edit(() => call('PATCH', `/api/rates/${rate.id}`, { plan: next, lock_version: version }))
  const charged = !price ? 'else' : price.carried === false ? 'no' : (price.charge ?? 'once')
  const flat = !price?.schedule || price.schedule.kind === 'flat'
  const typed = (amount: string): Plan =>
    withPrice(
      plan,
      group,
      amount.trim()
        ? { charge: 'once', ...price, carried: true, schedule: { kind: 'flat', amount: amount.trim() } }
        : undefined,
    )
  const choose = (charge: string) => {
    const schedule = price?.schedule ?? plan.others?.schedule ?? { kind: 'flat' as const, amount: '0' }
    const next: ClassPrice | undefined =
      charge === 'else'
        ? undefined
        : charge === 'no'
          ? { carried: false }
          : { ...price, carried: true, charge: charge as 'once' | 'unit', schedule }
    const own = next && group === OTHERS ? { ...next, unclassed: price?.unclassed ?? true } : next
    void told('', () =>
      patch(
        withPrice(plan, group, own && group !== OTHERS ? { ...own, class: group } : own),
        rate.lock_version,
      ),
    )
  }
  return (
    <div className="flex flex-wrap items-center gap-1">
      {flat && charged !== 'no' ? (
        <Field
          label={`Amount: ${name}`}
          hideLabel
          prefix={formats.symbol}
          width="w-14"
          inputMode="decimal"
          placeholder={group === OTHERS ? 'none' : 'rest'}
          value={price?.schedule?.amount ?? ''}
          version={rate.lock_version}
          pointer={pointerOf(plan, group)}
          save={(amount, version) => patch(typed(amount), version)}
          read={(current) => priceOf((current as Rate).plan ?? {}, group)?.schedule?.amount ?? ''}
          show={(amount) => (amount ? formats.money(amount) : 'no price of its own')}
          typing={(amount) => setPreview(amount === null ? null : { rate: rate.id, plan: typed(amount) })}
        />
      ) : (
        charged !== 'no' && (
          <Link
            className="min-h-[24px] truncate underline underline-offset-2"
            title={scheduleWords(price?.schedule, formats)}
            to={`/#rate=${rate.id}&field=plan`}
          >
            {
              { steps: 'in steps', grid: 'in a grid', first: 'first and more', flat: '' }[
                price!.schedule!.kind
              ]
            }
          </Link>
        )
      )}
      <select
        className="min-h-[24px] max-w-full rounded-xs bg-transparent text-soft"
        aria-label={`How it is charged: ${name}`}
        value={charged}
        onChange={(event) => choose(event.target.value)}
      >
        {CHARGES.map(([value, words]) => (
          <option key={value} value={value}>
            {group === OTHERS && value === 'else' ? 'not said' : words}
          </option>
        ))}
      </select>
    </div>
  )
}
