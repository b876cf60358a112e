import { byId } from '../api/by-id'
import { Link } from 'react-router'
import type { Finding } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useGeography } from '../setup/queries'
import { useActs } from '../edits/acts'
import { benchOf, useBenchCart } from '../cart/cart'
import { settingPath } from '../reckoning/paths'
import { formatsOf } from '../ui/format'
import { addressWords } from '../words/zones'
import { counted } from '../ui/locale'
import { grouped, type Group } from './groups'
import { mendOf } from './mends'
import { findingSentence } from '../words/findings'
import { Button } from '../ui/button'
import { Fold } from '../ui/fold'

const SIGNS = { problem: '▲', warning: '△', note: '·' } as const
const TONES = { problem: 'text-brick', warning: 'text-ochre', note: 'text-soft' } as const

/**
 * What the audit found, the most harmful first, what has one cause in one place: what it is, a cart or an address that
 * shows it, and how to mend it. What is only worth knowing is folded, and so is what the merchant has put to sleep.
 */
export function FindingsList({ findings, named }: { findings: Finding[]; named: boolean }) {
  const list = (items: Group[]) => (
    <ul>
      {items.map((group) => (
        <Row key={group.key} of={group} named={named} />
      ))}
    </ul>
  )
  const groups = grouped(findings)
  const awake = groups.filter(({ first }) => !first.asleep)
  const notes = awake.filter(({ first }) => first.harm === 'note')
  const asleep = groups.filter(({ first }) => first.asleep)
  return (
    <>
      {list(awake.filter(({ first }) => first.harm !== 'note'))}
      {notes.length > 0 && <Fold title={counted(notes.length, 'note')}>{list(notes)}</Fold>}
      {asleep.length > 0 && <Fold title={`Snoozed: ${asleep.length}`}>{list(asleep)}</Fold>}
    </>
  )
}

/** Zones that are named one by one. */
const NAMED = 4

function Row({ of: { first: finding, all }, named }: { of: Group; named: boolean }) {
  const { setup, send } = useWorkshop()
  const { data: geography } = useGeography()
  const { act } = useActs()
  const { replace } = useBenchCart()
  const { text, mend } = findingSentence(finding, setup, formatsOf(setup.store), geography)
  const ids = [...new Set(all.flatMap(({ zone }) => zone ?? []))]
  const zones = ids.flatMap((id) => byId(setup.zones, id) ?? [])
  const certain = mendOf(finding, setup)
  return (
    <li className="flex gap-2 border-t border-hair py-1.5">
      <span aria-hidden className={`font-semibold ${TONES[finding.harm]}`}>
        {SIGNS[finding.harm]}
      </span>
      <span className="flex-1">
        <span className="sr-only">{finding.harm}: </span>
        {named && zones.length > 1 && <b>{counted(zones.length, 'zone')}: </b>}
        {named &&
          zones.slice(0, NAMED).map(({ id, name }, at) => (
            <span key={id}>
              {at > 0 && ', '}
              <Link className="font-medium underline underline-offset-2" to={`/zones#zone=${id}`}>
                {name}
              </Link>
            </span>
          ))}
        {named && zones.length > NAMED && ` and ${zones.length - NAMED} more`}
        {named && zones.length > 0 && ': '}
        {text}{' '}
        {finding.example && <span className="text-soft">For example {addressWords(finding.example)}. </span>}
        <span className="text-soft">{mend}</span>
        {finding.cart && (
          <>
            {' '}
            <Button
              look="bare"
              className="rounded-xs underline underline-offset-2"
              onClick={() => replace({ ...benchOf(finding.cart, ''), when: finding.at ?? '' })}
            >
              Try it on the bench
            </Button>
          </>
        )}
        {finding.setting && (
          <>
            {finding.cart ? ' · ' : ' '}
            <Link
              className="whitespace-nowrap underline underline-offset-2"
              to={
                finding.setting.kind === 'rate'
                  ? `/#rate=${finding.setting.id}&field=plan`
                  : settingPath({ ...finding.setting, field: '' })
              }
            >
              Open the setting
            </Link>
          </>
        )}
      </span>
      {certain && (
        <Button
          className="shrink-0 self-start"
          onClick={() =>
            act(
              certain.path,
              'active',
              `Switch off ${certain.name}`,
              (_, { lock_version = 0 }) =>
                send((to) => certain.off(to, lock_version), `Switched off ${certain.name}`),
              certain.thing,
            )
          }
        >
          Switch it off
          <span className="sr-only">: {certain.name}</span>
        </Button>
      )}
      <Button
        look="quiet"
        className="shrink-0 self-start"
        data-tip={finding.asleep ? undefined : 'Hide this finding until it changes'}
        onClick={() =>
          act(
            '/api/findings/asleep',
            finding.key,
            finding.asleep ? 'Wake a finding' : 'Snooze a finding',
            () =>
              send(
                (to) =>
                  to.PUT('/api/findings/asleep', {
                    body: { keys: all.map(({ key }) => key), asleep: !finding.asleep },
                  }),
                finding.asleep ? 'Woke the finding' : 'Snoozed until this finding changes',
              ),
          )
        }
      >
        {finding.asleep ? 'Wake' : 'Snooze'}
        <span className="sr-only">: {text}</span>
      </Button>
    </li>
  )
}
