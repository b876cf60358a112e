import { Link } from 'react-router'
import type { Finding } from '../api/client'
import { useGeography, useWorkshop } from '../api/setup'
import { addressWords, findingSentence } from './words'

const SIGNS = { problem: '▲', warning: '△', note: '·' } as const
const TONES = { problem: 'text-brick', warning: 'text-ochre', note: 'text-soft' } as const

/** What the audit found: what it is, an address that shows it, and how to mend it. */
export function FindingsList({ findings, named }: { findings: Finding[]; named: boolean }) {
  const { setup } = useWorkshop()
  const { data: geography } = useGeography()
  return (
    <ul>
      {findings.map((finding, index) => {
        const { text, mend } = findingSentence(finding, setup, geography)
        const zone = setup.zones.find(({ id }) => id === finding.zone)
        return (
          <li key={index} className="flex gap-2 border-t border-hair py-1.5">
            <span aria-hidden className={`font-semibold ${TONES[finding.harm]}`}>
              {SIGNS[finding.harm]}
            </span>
            <span>
              <span className="sr-only">{finding.harm}: </span>
              {named && zone && (
                <Link className="font-medium underline underline-offset-2" to={`/zones#zone=${zone.id}`}>
                  {zone.name}
                </Link>
              )}
              {named && zone && ': '}
              {text}{' '}
              {finding.example && (
                <span className="text-soft">For example {addressWords(finding.example)}. </span>
              )}
              <span className="text-soft">{mend}</span>
              {finding.setting && (
                <>
                  {' '}
                  <Link
                    className="whitespace-nowrap underline underline-offset-2"
                    to={
                      finding.setting.kind === 'class'
                        ? `/goods/classes#class=${finding.setting.id}`
                        : `/goods/treatments#treatment=${finding.setting.id}`
                    }
                  >
                    go to it
                  </Link>
                </>
              )}
            </span>
          </li>
        )
      })}
    </ul>
  )
}
