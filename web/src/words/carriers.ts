import { byId } from '../api/by-id'
import { keysOf } from '../api/shapes'
import type { Live, Setup } from '../api/client'
import { list } from '../ui/locale'
import type { Formats } from '../ui/format'

export const TROUBLES = {
  silent: 'If a carrier is silent or down',
  refused: 'If all refuse this address or these goods',
  unusable: 'If the answer is unusable',
} as const
export type Trouble = keyof typeof TROUBLES

export function serviceName(service: Live['services'][number], setup: Setup): string {
  const carrier = byId(setup.carriers, service.carrier)
  const name = carrier?.services?.find(({ code }) => code === service.service)?.name ?? service.service
  return `${carrier?.name ?? 'a carrier that is gone'}, ${name}`
}

/** A live rate as a sentence. */
export function liveSentence(live: Live, setup: Setup, formats: Formats): string {
  const names = live.services.map((service) => serviceName(service, setup))
  const which = { cheapest: 'The cheapest', fastest: 'The fastest', first: 'The first that answers' }[
    live.answer ?? 'cheapest'
  ]
  const money = (text: string) => (/^-?\d/.test(text) ? formats.money(text) : '…')
  const { percent, fixed, per } = live.handling ?? {}
  const markup = [
    percent && `${percent} %`,
    fixed && `${money(fixed)}${per && per !== 'order' ? ` a ${per}` : ''}`,
  ].filter(Boolean)
  const limits = [
    live.minimum && `at least ${money(live.minimum)}`,
    live.maximum && `at most ${money(live.maximum)}`,
    live.ending && `ending in ${live.ending.replace(/^0/, '')}`,
  ].filter((text): text is string => Boolean(text))
  const ladder = keysOf(TROUBLES).map((trouble) => {
    const step = live.ladder?.[trouble]
    const what =
      step?.kind === 'amount'
        ? money(step.amount ?? '')
        : step?.kind === 'plan'
          ? 'your own price'
          : 'not available'
    return `${{ silent: 'silent', refused: 'refused', unusable: 'unusable' }[trouble]}: ${what}`
  })
  const parts = [
    names.length === 1 ? names[0]! : `${which} of ${list(names, 'and')}`,
    markup.length ? `with ${markup.join(' and ')} on top` : '',
    ...limits,
  ].filter(Boolean)
  const own = live.own === 'instead' ? ' Your own price goes first where it gives one.' : ''
  return `${parts.join(', ')}.${own} In trouble: ${ladder.join(', ')}.`
}
