import { useId, useState } from 'react'
import { Link } from 'react-router'
import { ApiProblem, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useMaking } from '../edits/made'
import { useSession } from '../setup/session'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { TextArea } from '../ui/input'
import { counted } from '../ui/locale'
import { Radios } from '../ui/radios'
import { Empty, Panel } from '../ui/said'
import { toast } from '../ui/toast'
import { Typed } from '../ui/typed'
import { CartChanges } from './cart-changes'
import { Planned } from './planned'
import { useCartChanges, useReleaseState } from './use-releases'

/** Publishing the draft: first what changes for carts, then the words that go with it, now or at a moment. */
export function Publish() {
  return (
    <div className="pb-8">
      <p className="mb-2 max-w-3xl text-soft">
        Your shop uses the published release. Edits here reach shoppers when you publish, and you can go back
        to any earlier release.
      </p>
      <Answer of={useReleaseState()}>{(state) => <Standing state={state} />}</Answer>
    </div>
  )
}

function Standing({ state }: { state: Schemas['ReleaseState'] }) {
  const { live, changes, planned } = state
  const changed = useCartChanges(String(live), 'draft', live !== null && Boolean(changes))
  return (
    <>
      <p className="text-lg">
        {live === null ? (
          <b>Nothing is published yet, so checkouts get no prices.</b>
        ) : changes ? (
          <>
            <b>{counted(changes, 'edit')}</b> since release {live}, which is live.
          </>
        ) : (
          <>
            <b>Release {live} is live,</b> and the draft is the same.
          </>
        )}
      </p>
      {planned.map((one) => (
        <Planned key={one.id} of={one} />
      ))}
      {live !== null && Boolean(changes) && (
        <section aria-label="What changes for carts" className="mt-2">
          <h2 className="text-lg">What changes for carts</h2>
          <Answer of={changed} waiting="Pricing carts in both …">
            {(found) => (
              <CartChanges
                changes={found}
                none="No cart gets another price: your edits do not change prices, or no shopper sees them."
              />
            )}
          </Answer>
        </section>
      )}
      {live === null || changes ? (
        <PublishForm revision={state.revision} />
      ) : (
        <Empty>
          Edit the setup, and this page shows how cart prices will change. <Link to="/">To the Board</Link>
        </Empty>
      )}
    </>
  )
}

const WHO = 'gate-mile:by'

interface Words {
  by: string
  note: string
  when: 'now' | 'at'
  at: string
  overrule: string
}
const BLANK: Words = { by: '', note: '', when: 'now', at: '', overrule: '' }

function PublishForm({ revision }: { revision: number }) {
  const { setup, sendBeside } = useWorkshop()
  const [blank] = useState<Words>(() => ({ ...BLANK, by: localStorage.getItem(WHO) ?? '' }))
  const made = useMaking('/api/releases', 'Publish', blank, {
    send: ({ by, note, when, at, overrule }) => {
      localStorage.setItem(WHO, by)
      const body = { revision, by, note, at: when === 'at' ? at : null, overrule: overrule || null }
      return sendBeside((to) => to.POST('/api/releases', { body }), 'releases')
    },
    added: ({ number }, { when }) =>
      toast(when === 'now' ? `Release ${number} is live` : `Release ${number} is planned`),
  })
  const { by, note, when, at, overrule } = made.doc
  const { data: session } = useSession()
  const noted = useId()
  const failing = made.error instanceof ApiProblem ? made.error.problem.failing : undefined
  return (
    <section aria-label="Publish" className="mt-4 flex max-w-3xl flex-col gap-2 border-t border-ink pt-2">
      <h2 className="text-lg">Publish</h2>
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        {/* Who is signed in signs by that name. */}
        {!session?.person && (
          <Typed label="Your name" width="w-44" value={by} change={(by) => made.type({ by })} />
        )}
        <span className="flex grow flex-col gap-1">
          <label htmlFor={noted} className="font-cond text-soft">
            Note (internal)
          </label>
          <TextArea
            id={noted}
            rows={2}
            maxLength={2000}
            value={note}
            onChange={(event) => made.type({ note: event.target.value })}
          />
        </span>
      </div>
      <Radios
        label="When it goes live"
        value={when}
        choose={(when) => made.type({ when })}
        choices={[
          ['now', 'Now'],
          ['at', 'At a set time'],
        ]}
      />
      {when === 'at' && (
        <Typed
          label={`Store time (${setup.store?.time_zone})`}
          type="datetime-local"
          width="w-56"
          value={at}
          error={made.problemAt('/at')}
          change={(at) => made.type({ at })}
        />
      )}
      {failing && (
        <Panel tone="bad">
          <p>
            These proofs do not hold: {failing.join(', ')}. <Link to="/proofs">Look at them</Link>, or say why
            you publish all the same.
          </p>
          <Typed
            label="Reason to publish anyway"
            width="w-full"
            value={overrule}
            change={(overrule) => made.type({ overrule })}
          />
        </Panel>
      )}
      {made.problem && !failing && !made.problemAt('/at') && <FieldError>{made.problem}</FieldError>}
      <div>
        <Button
          className="border-ink font-semibold"
          disabled={made.busy || (when === 'at' && !at)}
          onClick={made.add}
        >
          {made.busy ? 'Publishing …' : when === 'now' ? 'Publish now' : 'Plan it'}
        </Button>
      </div>
    </section>
  )
}
