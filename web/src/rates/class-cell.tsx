import { Link } from 'react-router'
import type { Plan, Rate } from '../api/client'
import { useWorkshop } from '../api/setup'
import { usePreview } from '../bench/result'
import { useEdited } from '../edits/edited'
import { amountOf, type ClassPrice } from '../plans/draft'
import { scheduleWords } from '../plans/words'
import { Field } from '../ui/field'
import { formatsOf } from '../ui/format'
import { OTHERS, pointerOf, priceOf, withPrice, type Group } from './class-groups'
import { Select } from '../ui/select'

const CHARGES = [
  ['once', 'once'],
  ['unit', 'a unit'],
  ['no', 'not carried'],
  ['else', 'as the rest'],
] as const

interface Props {
  rate: Rate
  group: Group
  name: string
}

/** How one class is charged by one rate: once, for each unit, not carried, or as everything else. */
export function ClassCell({ rate, group, name }: Props) {
  const { setup } = useWorkshop()
  const { setPreview } = usePreview()
  const edited = useEdited('rates', rate)
  const formats = formatsOf(setup.store!)
  const price = priceOf(edited.doc.plan ?? {}, group)
  const charged = !price ? 'else' : price.carried === false ? 'no' : (price.charge ?? 'once')
  const flat = !price?.schedule || price.schedule.kind === 'flat'
  const key = `plan class ${group ?? ''}`
  const ownPrice = (doc: Rate) => priceOf(doc.plan ?? {}, group)
  /** The rate with another price for the class, made of the one that it has there. */
  const priced = (doc: Rate, make: (old: ClassPrice | undefined, plan: Plan) => ClassPrice | undefined) => {
    const plan = doc.plan ?? {}
    return { plan: withPrice(plan, group, make(priceOf(plan, group), plan)) }
  }
  const choose = (charge: string) =>
    edited.put(
      key,
      `How it is charged: ${name}`,
      (doc) =>
        priced(doc, (old, plan) => {
          if (charge === 'else') return undefined
          const own = group === OTHERS ? { unclassed: old?.unclassed ?? true } : { class: group }
          if (charge === 'no') return { carried: false, ...own }
          const schedule = old?.schedule ?? plan.others?.schedule ?? { kind: 'flat' as const, amount: '0' }
          return { ...old, carried: true, charge: charge as 'once' | 'unit', schedule, ...own }
        }),
      { read: ownPrice },
    )
  return (
    <div className="flex flex-wrap items-center gap-1">
      {flat && charged !== 'no' ? (
        <Field
          of={edited}
          at={`${key} amount`}
          label={`Amount: ${name}`}
          hideLabel
          prefix={formats.symbol}
          width="w-14"
          inputMode="decimal"
          placeholder={group === OTHERS ? 'none' : 'rest'}
          pointer={pointerOf(edited.doc.plan ?? {}, group)}
          value={(doc) => amountOf(ownPrice(doc)?.schedule)}
          write={(text, doc) =>
            priced(doc, (old) =>
              text.trim()
                ? { charge: 'once', ...old, carried: true, schedule: { kind: 'flat', amount: text.trim() } }
                : undefined,
            )
          }
          show={(amount) => (amount ? formats.money(amount) : 'no price of its own')}
          typing={(doc) => setPreview(doc && { rate: rate.id, plan: doc.plan ?? null })}
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
      <Select
        label={`How it is charged: ${name}`}
        className="min-h-[24px] max-w-full rounded-xs bg-transparent text-soft"
        value={charged}
        choices={CHARGES.map(
          ([value, words]) => [value, group === OTHERS && value === 'else' ? 'not said' : words] as const,
        )}
        choose={(value) => choose(value)}
      />
    </div>
  )
}
