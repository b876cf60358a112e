import type { Proof } from '../api/client'
import type { Edited } from '../edits/edited'
import { Field } from '../forms/field'
import { FieldError } from '../ui/field-error'
import { weekdayName } from '../ui/moment'
import { Radios } from '../ui/radios'
import { Tick } from '../ui/tick'

const WEEK = [1, 2, 3, 4, 5, 6, 7]

/** When the cart is checked out: whenever somebody looks, at a moment, or at an hour of some days of the week. */
export function WhenEditor({ of }: { of: Edited<Proof> }) {
  const { at, weekdays, time } = of.doc
  const days = weekdays ?? []
  const way = at ? 'at' : days.length ? 'days' : 'ever'
  const put = (fields: Partial<Proof>) =>
    of.put('when', `${of.stored.name}: the moment`, () => ({
      at: null,
      weekdays: null,
      time: null,
      ...fields,
    }))
  return (
    <fieldset>
      <legend className="font-cond text-base">It is checked out</legend>
      <Radios
        label="When the cart is checked out"
        value={way}
        choose={(next) =>
          put(
            next === 'ever'
              ? {}
              : next === 'days'
                ? { weekdays: WEEK.slice(0, 5), time: '12:00' }
                : { at: `${new Date().toISOString().slice(0, 10)}T12:00` },
          )
        }
        choices={[
          ['ever', 'whenever it is looked at'],
          ['days', 'on any of some days'],
          ['at', 'at a moment'],
        ]}
      />
      {way === 'at' && (
        <Field
          of={of}
          at="at"
          label="The moment, on the shop’s clock"
          width="w-44"
          write={(text) => ({ at: text, weekdays: null, time: null })}
        />
      )}
      {way === 'days' && (
        <span className="flex flex-wrap items-end gap-x-4 gap-y-1">
          {WEEK.map((day) => (
            <Tick
              key={day}
              on={days.includes(day)}
              change={(on) => {
                const next = on ? [...days, day].sort() : days.filter((one) => one !== day)
                if (next.length) put({ weekdays: next, time: time ?? '12:00' })
              }}
            >
              {weekdayName(day)}
            </Tick>
          ))}
          <Field
            of={of}
            at="time"
            label="Time"
            width="w-20"
            write={(text, doc) => ({ at: null, weekdays: doc.weekdays ?? WEEK.slice(0, 5), time: text })}
          />
        </span>
      )}
      {of.problemAt('/weekdays') && <FieldError>{of.problemAt('/weekdays')}</FieldError>}
    </fieldset>
  )
}
