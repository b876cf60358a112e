import { RadioGroup } from 'radix-ui'
import { Fragment, type ReactNode } from 'react'

interface Props<V extends string> {
  label: string
  value: V
  choose: (value: V) => void
  /** A value, its words, and what belongs to it while it is chosen. */
  choices: readonly (readonly [value: V, words: string, more?: ReactNode])[]
  /** One below the other, where the words are long or something belongs to them. */
  stacked?: boolean
}

/** One of a few values, all of them in sight. */
export function Radios<V extends string>({ label, value, choose, choices, stacked }: Props<V>) {
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value}
      onValueChange={(next) => choose(next as V)}
      className={stacked ? 'flex flex-col gap-1' : 'flex flex-wrap gap-x-4 gap-y-1'}
    >
      {choices.map(([key, words, more]) => (
        <Fragment key={key}>
          <label className="flex min-h-7 items-start gap-1">
            <RadioGroup.Item value={key} className="grid size-7 shrink-0 place-items-center rounded-full">
              <span
                aria-hidden
                className="grid size-4 place-items-center rounded-full border border-edge bg-white"
              >
                <RadioGroup.Indicator className="size-2 rounded-full bg-ink" />
              </span>
            </RadioGroup.Item>
            <span className="pt-1">{words}</span>
          </label>
          {key === value && more && <div className="ml-8">{more}</div>}
        </Fragment>
      ))}
    </RadioGroup.Root>
  )
}
