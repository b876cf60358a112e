import { byId } from '../api/by-id'
import { X } from 'lucide-react'
import { Link } from 'react-router'
import type { MethodQuote } from '../api/client'
import type { Formats } from '../ui/format'
import { Price } from '../ui/price'
import { useWorkshop } from '../edits/workshop'
import { useBenchResult, useReckonings } from '../cart/result'
import { settingPath } from './paths'
import { landingSentence, reckoningTitle, stepSentence } from '../words/reckoning'
import { Button } from '../ui/button'

/** How one price came about, line by line, like sums on paper. Every line leads to the setting that caused it. */
export function Reckoning({
  method,
  formats,
  went,
  close,
}: {
  method: MethodQuote
  formats: Formats
  /** Called when one goes to a setting or to the zone. */
  went?: () => void
  close: () => void
}) {
  const { setup } = useWorkshop()
  const { bench } = useBenchResult()
  useReckonings([method.rate])
  const zone = byId(setup.zones, setup.rates.find((rate) => rate.id === method.rate)?.zone)
  return (
    <section
      aria-label={`${reckoningTitle(method, formats)} ${method.name}`}
      className="my-2 border border-ink bg-white px-3 py-2"
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      <header className="flex items-center justify-between">
        <h3 className="text-base">{reckoningTitle(method, formats)}</h3>
        <Button look="quiet" className="px-1" aria-label="Close the reckoning" onClick={close}>
          <X size={14} aria-hidden />
        </Button>
      </header>
      <ol>
        {zone && (
          <li className="border-t border-hair py-1">
            {landingSentence(bench?.quote.landing ?? null, zone)}{' '}
            <Link
              className="whitespace-nowrap underline underline-offset-2"
              to={`/#zone=${encodeURIComponent(zone.id)}`}
              onClick={went}
            >
              go to the zone
            </Link>
          </li>
        )}
        <ReckoningSteps method={method} formats={formats} went={went} />
      </ol>
    </section>
  )
}

/** The lines of a reckoning; `past` without the ways to settings, which may be others by now. */
export function ReckoningSteps({
  method,
  formats,
  went,
  past,
}: {
  method: MethodQuote
  formats: Formats
  went?: (() => void) | undefined
  past?: boolean
}) {
  const ruled = method.reckoning.some((step) => step.code === 'rule.price')
  const total = ruled ? -1 : method.reckoning.findIndex((step) => step.code === 'price.total')
  return (
    <>
      {method.reckoning.length === 0 && (
        <li className="border-t border-hair py-1 text-soft">Being worked out…</li>
      )}
      {method.reckoning.map((step, index) => (
        <li
          key={index}
          className={`flex items-baseline justify-between gap-4 py-1 ${index === total ? 'border-t-2 border-ink font-semibold' : 'border-t border-hair'}`}
        >
          <span>
            {ruled && step.code === 'price.total' ? 'Before rules' : stepSentence(step, formats)}
            {!past && step.setting && !goesOn(method.reckoning, index) && (
              <>
                {' '}
                <Link
                  className="whitespace-nowrap underline underline-offset-2"
                  to={settingPath(step.setting)}
                  onClick={went}
                >
                  go to the setting
                </Link>
              </>
            )}
          </span>
          {step.amount !== null && (
            <span className="whitespace-nowrap">
              {index === total ? (
                <Price amount={step.amount} formats={formats} />
              ) : (
                formats.money(step.amount)
              )}
            </span>
          )}
        </li>
      ))}
      {ruled && (
        <li className="flex items-baseline justify-between gap-4 border-t-2 border-ink py-1 font-semibold">
          The shopper pays
          <Price amount={method.price ?? '0'} formats={formats} />
        </li>
      )}
      {method.cost !== null && method.left !== null && (
        <li className="border-t border-hair py-1 text-soft">
          {method.live !== null ? 'The carrier takes' : 'It costs you'} {formats.money(method.cost)}:{' '}
          <b className={method.left.startsWith('-') ? 'text-brick' : 'text-ink'}>
            {formats.money(method.left)}
          </b>{' '}
          is left
        </li>
      )}
    </>
  )
}

/** Whether the next step comes of the same setting: one link to it is enough. */
function goesOn(steps: MethodQuote['reckoning'], index: number): boolean {
  const [here, next] = [steps[index]?.setting, steps[index + 1]?.setting]
  return Boolean(here && next && settingPath(here) === settingPath(next))
}
