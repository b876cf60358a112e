import { useState, type FormEvent } from 'react'
import type { Schemas } from '../api/client'
import { useAct, type Act } from '../edits/use-act'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { counted } from '../ui/locale'
import { toast } from '../ui/toast'
import { Typed } from '../ui/typed'

/** What is done once the password was typed again. */
type Wanted = 'on' | 'off' | 'recovery'

const ACTS: Record<Wanted, string> = {
  on: 'Show the picture to scan',
  off: 'Switch codes off',
  recovery: 'Make new recovery codes',
}

/** The second thing that one shows to sign in: a code that a telephone reckons. */
export function Codes({ on, left }: { on: boolean; left: number }) {
  const [wanted, setWanted] = useState<Wanted | null>(null)
  const [secret, setSecret] = useState<Schemas['CodeSecret'] | null>(null)
  const [recovery, setRecovery] = useState<string[] | null>(null)
  const act = useAct('/api/me/codes', wanted ?? 'scan', wanted ? ACTS[wanted] : 'Switch codes on', 'people')

  const confirmed = (current: string) => {
    const body = { current }
    const done = () => setWanted(null)
    if (wanted === 'off') act.beside((to) => to.POST('/api/me/codes/off', { body }), done)
    else if (wanted === 'on')
      act.beside(
        (to) => to.POST('/api/me/codes', { body }),
        (made) => {
          setSecret(made)
          done()
        },
      )
    else
      act.beside(
        (to) => to.POST('/api/me/codes/recovery', { body }),
        (made) => {
          setRecovery(made.recovery_codes)
          done()
        },
      )
  }
  const cancel = () => {
    act.drop()
    setWanted(null)
    setSecret(null)
  }
  return (
    <section aria-label="One-time codes" className="border-t border-ink pt-2">
      <h2 className="mb-1 text-lg">One-time codes</h2>
      {recovery && <Recovery codes={recovery} close={() => setRecovery(null)} />}
      {secret ? (
        <Scan
          secret={secret}
          act={act}
          done={(codes) => {
            setSecret(null)
            setRecovery(codes)
          }}
          cancel={cancel}
        />
      ) : wanted ? (
        <Confirm words={ACTS[wanted]} act={act} run={confirmed} cancel={cancel} />
      ) : on ? (
        <>
          <p>
            On: to sign in, you also type a code that your telephone shows.{' '}
            {left === 0 ? 'No recovery code is left.' : `${counted(left, 'recovery code')} left.`}
          </p>
          <Button className="mt-1.5" onClick={() => setWanted('recovery')}>
            New recovery codes …
          </Button>{' '}
          <Button look="quiet" onClick={() => setWanted('off')}>
            Switch codes off …
          </Button>
        </>
      ) : (
        <>
          <p>
            Off. With them on, nobody gets in with your password alone: an app on your telephone (any that
            knows time-based one-time codes) shows six figures that change every half minute.
          </p>
          <Button className="mt-1.5" onClick={() => setWanted('on')}>
            Switch codes on …
          </Button>
        </>
      )}
    </section>
  )
}

function Confirm({
  words,
  act,
  run,
  cancel,
}: {
  words: string
  act: Act
  run: (current: string) => void
  cancel: () => void
}) {
  const [current, setCurrent] = useState('')
  const submit = (event: FormEvent) => {
    event.preventDefault()
    run(current)
  }
  return (
    <form noValidate onSubmit={submit} className="flex flex-col items-start gap-2">
      <Typed
        label="Your password, once more"
        type="password"
        autoComplete="current-password"
        autoFocus
        width="w-64"
        value={current}
        error={act.at('/current')}
        change={setCurrent}
      />
      {act.message && !act.at('/current') && <FieldError>{act.message}</FieldError>}
      <span className="flex gap-1.5">
        <Button type="submit" className="border-ink font-semibold" disabled={act.busy}>
          {words}
        </Button>
        <Button look="quiet" onClick={cancel}>
          Cancel
        </Button>
      </span>
    </form>
  )
}

function Scan({
  secret,
  act,
  done,
  cancel,
}: {
  secret: Schemas['CodeSecret']
  act: Act
  done: (recovery: string[]) => void
  cancel: () => void
}) {
  const [code, setCode] = useState('')
  const submit = (event: FormEvent) => {
    event.preventDefault()
    act.beside(
      (to) => to.PUT('/api/me/codes', { body: { code } }),
      (made) => done(made.recovery_codes),
    )
  }
  return (
    <form noValidate onSubmit={submit} className="flex flex-wrap items-start gap-x-6 gap-y-3">
      <img
        alt="The secret as a QR code, to be scanned"
        className="size-44 border border-hair"
        src={`data:image/svg+xml;utf8,${encodeURIComponent(secret.picture)}`}
      />
      <div className="flex max-w-sm flex-col items-start gap-2">
        <p>
          Scan this with the app on your telephone, or type the secret into it:
          <code className="mt-1 block bg-paper px-2 py-1 break-all select-all">
            {secret.secret.replace(/(.{4})(?=.)/g, '$1 ')}
          </code>
        </p>
        <Typed
          label="The code that it shows now"
          autoComplete="one-time-code"
          width="w-32"
          value={code}
          error={act.at('/code')}
          change={setCode}
        />
        {act.message && !act.at('/code') && <FieldError>{act.message}</FieldError>}
        <span className="flex gap-1.5">
          <Button type="submit" className="border-ink font-semibold" disabled={act.busy || !code}>
            Switch codes on
          </Button>
          <Button look="quiet" onClick={cancel}>
            Cancel
          </Button>
        </span>
      </div>
    </form>
  )
}

function Recovery({ codes, close }: { codes: string[]; close: () => void }) {
  const copy = async () => {
    await navigator.clipboard.writeText(codes.join('\n'))
    toast('Copied')
  }
  return (
    <div role="alert" className="mb-2 border-l-4 border-ink bg-white px-3 py-2">
      <p>
        Ten recovery codes, for when your telephone is not at hand. Each works once. Print or copy them now:
        they are not shown again.
      </p>
      <ul aria-label="Recovery codes" className="my-1 grid w-fit grid-cols-2 gap-x-6 select-all">
        {codes.map((code) => (
          <li key={code}>
            <code>{code}</code>
          </li>
        ))}
      </ul>
      <Button onClick={() => void copy()}>Copy</Button>{' '}
      <Button look="quiet" onClick={close}>
        I have them
      </Button>
    </div>
  )
}
