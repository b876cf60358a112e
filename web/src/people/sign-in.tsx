import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Dialog } from 'radix-ui'
import { useState, useSyncExternalStore, type FormEvent, type ReactNode } from 'react'
import { ApiProblem, answerOf, api, type Schemas } from '../api/client'
import { signed, signedOut } from '../api/signed'
import { Wordmark } from '../ui/wordmark'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { Typed } from '../ui/typed'
import { useSession } from '../setup/session'

/** A page with one thing to do on it, for whoever is not in yet. */
export function AtTheDoor({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="mx-auto max-w-md px-6 py-10">
      <Wordmark />
      <h1 className="mt-6 mb-3 text-3xl">{title}</h1>
      {children}
    </main>
  )
}

/** Somebody is in: what was refused meanwhile is asked again. */
export function useLetIn() {
  const client = useQueryClient()
  return async () => {
    signedOut(false)
    await client.invalidateQueries()
  }
}

/** Email and password, and a one-time code where that is asked for. */
function SignInForm() {
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  const [code, setCode] = useState('')
  const letIn = useLetIn()
  const signing = useMutation({
    mutationFn: (body: Schemas['SignIn']) => answerOf(api.POST('/api/session', { body })),
    onSuccess: letIn,
  })
  const problem = signing.error instanceof ApiProblem ? signing.error.problem : null
  const [wanted, setWanted] = useState(false)
  const asked = wanted || problem?.code_wanted === true
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (problem?.code_wanted) setWanted(true)
    signing.mutate({ email, password, ...(asked && { code }) })
  }
  // Only that a code is missing is no mistake of whoever signs in.
  const mistake = signing.error && !(problem?.code_wanted && !wanted)
  return (
    <form noValidate onSubmit={submit} className="flex flex-col gap-3">
      <Typed
        label="Email"
        type="email"
        autoComplete="username"
        width="w-full"
        value={email}
        change={setEmail}
      />
      <Typed
        label="Password"
        type="password"
        autoComplete="current-password"
        width="w-full"
        value={password}
        change={setPassword}
      />
      {asked && (
        <Typed
          label="One-time code or recovery code"
          autoComplete="one-time-code"
          autoFocus
          width="w-full"
          value={code}
          change={setCode}
        />
      )}
      {mistake && <FieldError>{signing.error?.message}</FieldError>}
      <div>
        <Button type="submit" className="border-ink px-4 font-semibold" disabled={signing.isPending}>
          {signing.isPending ? 'Signing in …' : 'Sign in'}
        </Button>
      </div>
      <p className="text-soft">
        Forgot your password? Ask an owner for a reset link, or run <code>bin/people reset</code> on the
        server’s machine.
      </p>
    </form>
  )
}

/** Where nobody is signed in: the way in, or how the first account is made. */
export function SignInPage() {
  const { data: session } = useSession()
  if (!session) return null
  if (!session.accounts)
    return (
      <AtTheDoor title="No owner yet">
        <p>
          Others can reach this server, so it tells nothing to anybody without an account, and there is none
          yet. On the server’s machine, <code>bin/people owner</code> prints a link by which you become its
          owner.
        </p>
      </AtTheDoor>
    )
  return (
    <AtTheDoor title="Sign in">
      <SignInForm />
    </AtTheDoor>
  )
}

/** Over the page, where a session has ended while one works: nothing that was typed goes. */
export function SignedOut() {
  const out = useSyncExternalStore(signed.subscribe, signed.out)
  return (
    <Dialog.Root open={out}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          onEscapeKeyDown={(event) => event.preventDefault()}
          onPointerDownOutside={(event) => event.preventDefault()}
          className="fixed top-[12vh] left-1/2 z-50 w-96 max-w-[94vw] -translate-x-1/2 border border-ink bg-white p-5"
        >
          <Dialog.Title className="text-2xl">Sign in again</Dialog.Title>
          <Dialog.Description className="mb-3 text-soft">
            Your session has ended. What you typed is still here.
          </Dialog.Description>
          <SignInForm />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
