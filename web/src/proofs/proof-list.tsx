import { Check, Radio, Trash2 } from 'lucide-react'
import { useDeferredValue, useState } from 'react'
import { useWorkshop } from '../edits/workshop'
import { useOpened } from '../policies/policy-list'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { formatsOf } from '../ui/format'
import { Input } from '../ui/input'
import { count } from '../ui/locale'
import { Empty } from '../ui/said'
import { Select } from '../ui/select'
import { ProofEditor } from './proof-editor'
import { Parting } from './parting'
import { useProofActs, useProofs, type Listed, type Shown } from './use-proofs'
import { cartSentence, departureSentence, expectsSentence, unclearSentence } from '../words/proofs'

const PAGE = 100
const SIGNS = { holds: '✓', changed: '≠', unclear: '?' } as const
const TONES = { holds: 'text-soft', changed: 'text-brick', unclear: 'text-ochre' } as const

/** All proofs, those that have changed first in sight, and what became of each. */
export function ProofList() {
  const { opened, open } = useOpened('/proofs', 'proof')
  const [state, setState] = useState<Shown['state']>('')
  const [tag, setTag] = useState('')
  const [find, setFind] = useState('')
  const [limit, setLimit] = useState(PAGE)
  const acts = useProofActs()
  const found = useProofs({ state, tag, find: useDeferredValue(find), limit })
  return (
    <div className="pb-8">
      <p className="mb-2 max-w-3xl text-soft">
        A proof is a saved cart with the prices it should get. Every edit re-prices them all; any that change
        are listed here and in the top bar.
      </p>
      <Answer of={found} waiting="Pricing the saved carts …">
        {(data) => {
          const ways = [
            ['', 'all', data.total],
            ['changed', 'changed', data.changed],
            ['unclear', 'unclear', data.unclear],
            ['holds', 'hold', data.holds],
          ] as const
          const shown = data.proofs
          return (
            <>
              <div className="mb-2 flex flex-wrap items-center gap-1">
                <span role="group" aria-label="Which proofs" className="flex flex-wrap gap-1">
                  {ways.map(([value, name, number]) => (
                    <Button
                      look="bare"
                      key={value}
                      aria-pressed={state === value}
                      className={`min-h-7 rounded-xs border px-2 ${state === value ? 'border-ink bg-ink text-white' : 'border-edge bg-white'}`}
                      onClick={() => setState(value)}
                    >
                      {name}: {count(number)}
                    </Button>
                  ))}
                </span>
                {(data.total > 12 || find) && (
                  <Input
                    type="search"
                    className="ml-3 w-44"
                    aria-label="Find a proof"
                    placeholder="find by name or note"
                    value={find}
                    onChange={(event) => setFind(event.target.value)}
                  />
                )}
                {data.tags.length > 0 && (
                  <Select
                    label="Only with a tag"
                    className="max-w-48"
                    value={tag}
                    choices={[['', 'every tag'], ...data.tags.map((one) => [one, one] as const)]}
                    choose={setTag}
                  />
                )}
                <span className="ml-auto flex flex-wrap gap-1">
                  {data.changed > 1 && (state === '' || state === 'changed') && !tag && !find && (
                    <Button onClick={() => void acts.accept({ like: { state: 'changed' } })}>
                      <Check size={13} aria-hidden /> Accept all {count(data.changed)} changes
                    </Button>
                  )}
                  {(state || tag || find) && data.found > 1 && (
                    <Button look="quiet" onClick={() => void acts.remove({ like: { state, tag, find } })}>
                      <Trash2 size={13} aria-hidden /> Remove these {count(data.found)}
                    </Button>
                  )}
                </span>
              </div>
              <ul aria-label="Proofs">
                {shown.map((one) => (
                  <Row
                    key={one.proof.id}
                    of={one}
                    open={opened === one.proof.id}
                    toggle={() => open(opened === one.proof.id ? null : one.proof.id)}
                  />
                ))}
              </ul>
              {shown.length === 0 && (
                <Empty>
                  {data.total === 0
                    ? 'Nothing is kept yet. Put goods and an address on the bench and press “Keep”, or walk the edges of a zone.'
                    : 'None of these.'}
                </Empty>
              )}
              {data.found > shown.length && (
                <Button className="mt-2" onClick={() => setLimit(Math.min(limit + PAGE, 500))}>
                  Show more of {count(data.found)}
                </Button>
              )}
            </>
          )
        }}
      </Answer>
    </div>
  )
}

function Row({ of: { proof, outcome }, open, toggle }: { of: Listed; open: boolean; toggle: () => void }) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const acts = useProofActs()
  const { state } = outcome
  return (
    <li
      className={`border-t border-l-4 border-t-hair py-1.5 ${open ? 'border-l-ink bg-white' : 'border-l-transparent bg-paper'}`}
    >
      <div className="flex items-start gap-2 pl-1">
        <span aria-hidden className={`w-4 pt-0.5 text-center font-semibold ${TONES[state]}`}>
          {SIGNS[state]}
        </span>
        <div className="min-w-0 flex-1">
          <Button look="opens" aria-expanded={open} onClick={toggle}>
            {proof.name}
          </Button>
          <span className={`ml-2 text-xs ${TONES[state]}`}>{state}</span>
          {proof.tags?.map((tag) => (
            <span key={tag} className="ml-1.5 border border-hair px-1 text-xs text-soft">
              {tag}
            </span>
          ))}
          {!open && <p className="text-soft">{cartSentence(proof)}</p>}
          {state === 'holds' && !open && <p>{expectsSentence(proof.expects, setup, formats)}</p>}
          {outcome.unclear.map((one) => (
            <p key={`${one.code} ${one.names.join()}`} className="text-ochre">
              {unclearSentence(one)}.
            </p>
          ))}
          {state === 'changed' && (
            <ul>
              {outcome.departures.map((one, at) => (
                <li key={at} className="text-brick">
                  {departureSentence(one, setup, formats)}.
                </li>
              ))}
            </ul>
          )}
          {state === 'changed' && <Parting id={proof.id} />}
        </div>
        <span className="flex shrink-0 gap-1">
          {state === 'changed' && (
            <Button onClick={() => void acts.accept({ ids: [proof.id] })}>
              <Check size={13} aria-hidden /> Accept
              <span className="sr-only"> what {proof.name} gets now</span>
            </Button>
          )}
          {outcome.unclear.some(({ code }) => code === 'not_recorded') && (
            <Button onClick={() => void acts.record({ ids: [proof.id] })}>
              <Radio size={13} aria-hidden /> Ask again
              <span className="sr-only"> for {proof.name}</span>
            </Button>
          )}
        </span>
      </div>
      {open && <ProofEditor proof={proof} outcome={outcome} close={toggle} />}
    </li>
  )
}
