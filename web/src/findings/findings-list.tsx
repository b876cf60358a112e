import { Link } from 'react-router'
import type { Finding } from '../api/client'
import { useGeography, useWorkshop } from '../api/setup'
import { useActs } from '../edits/acts'
import { benchOf, useBenchCart } from '../bench/cart'
import { settingPath } from '../reckoning/paths'
import { formatsOf } from '../ui/format'
import { addressWords } from '../zones/words'
import { findingSentence } from './words'
import { Button } from '../ui/button'
import { Fold } from '../ui/fold'

const SIGNS = { problem: '▲', warning: '△', note: '·' } as const
const TONES = { problem: 'text-brick', warning: 'text-ochre', note: 'text-soft' } as const

/**
 * What the audit found, the most harmful first: what it is, an address that shows it, and how to mend it. What is only
 * worth knowing is folded, and so is what the merchant has put to sleep.
 */
export function FindingsList({ findings, named }: { findings: Finding[]; named: boolean }) {
  const list = (items: Finding[]) => (
    <ul>
      {items.map((finding) => (
        <Row key={finding.key} finding={finding} named={named} />
      ))}
    </ul>
  )
  const awake = findings.filter(({ asleep }) => !asleep)
  const notes = awake.filter(({ harm }) => harm === 'note')
  const asleep = findings.filter((finding) => finding.asleep)
  return (
    <>
      {list(awake.filter(({ harm }) => harm !== 'note'))}
      {notes.length > 0 && <Fold title={`Worth knowing: ${notes.length}`}>{list(notes)}</Fold>}
      {asleep.length > 0 && <Fold title={`Snoozed: ${asleep.length}`}>{list(asleep)}</Fold>}
    </>
  )
}

function Row({ finding, named }: { finding: Finding; named: boolean }) {
  const { setup, send } = useWorkshop()
  const { data: geography } = useGeography()
  const { act } = useActs()
  const { replace } = useBenchCart()
  const { text, mend } = findingSentence(finding, setup, formatsOf(setup.store!), geography)
  const zone = setup.zones.find(({ id }) => id === finding.zone)
  return (
    <li className="flex gap-2 border-t border-hair py-1.5">
      <span aria-hidden className={`font-semibold ${TONES[finding.harm]}`}>
        {SIGNS[finding.harm]}
      </span>
      <span className="flex-1">
        <span className="sr-only">{finding.harm}: </span>
        {named && zone && (
          <Link className="font-medium underline underline-offset-2" to={`/zones#zone=${zone.id}`}>
            {zone.name}
          </Link>
        )}
        {named && zone && ': '}
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
              put a cart that shows it on the bench
            </Button>
          </>
        )}
        {finding.setting && (
          <>
            {' '}
            <Link
              className="whitespace-nowrap underline underline-offset-2"
              to={
                finding.setting.kind === 'rate'
                  ? `/#rate=${finding.setting.id}&field=plan`
                  : settingPath({ ...finding.setting, field: '' })
              }
            >
              go to it
            </Link>
          </>
        )}
      </span>
      <Button
        look="quiet"
        className="shrink-0 self-start"
        data-tip={finding.asleep ? undefined : 'Fold it away until it says something else'}
        onClick={() =>
          act(
            '/api/findings/asleep',
            finding.key,
            finding.asleep ? 'Wake a finding' : 'Snooze a finding',
            () =>
              send(
                'PUT',
                '/api/findings/asleep',
                { key: finding.key, asleep: !finding.asleep },
                finding.asleep ? 'Woke the finding' : 'Snoozed until the finding says something else',
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
