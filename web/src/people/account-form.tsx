import { useState, type FormEvent, type ReactNode } from 'react'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field'
import { Input } from '../ui/input'
import { Typed } from '../ui/typed'
import { useDoing } from '../releases/use-releases'

interface Account {
  name: string
  email: string
  password: string
}

/** Makes an account, or chooses a new password for the one that `fixed` names. */
export function AccountForm({
  fixed,
  act,
  make,
  children,
}: {
  /** The email of an account that is there already. */
  fixed?: string | null
  act: string
  /** Sends it; nothing where it was refused. */
  make: (account: Account) => Promise<unknown>
  children?: ReactNode
}) {
  const [account, setAccount] = useState<Account>({ name: '', email: '', password: '' })
  const doing = useDoing('session')
  const set = (field: keyof Account) => (text: string) => setAccount({ ...account, [field]: text })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    void doing.run(() => make(account))
  }
  const known = ['/name', '/email', '/password'].some((field) => doing.at(field))
  return (
    <form noValidate onSubmit={submit} className="flex max-w-md flex-col gap-3">
      {fixed ? (
        // For those who keep passwords for people.
        <Input type="email" autoComplete="username" value={fixed} readOnly hidden />
      ) : (
        <>
          <Typed
            label="Your name, as the others see it"
            autoComplete="name"
            width="w-full"
            value={account.name}
            error={doing.at('/name')}
            change={set('name')}
          />
          <Typed
            label="Email, to sign in with (nothing is sent there)"
            type="email"
            autoComplete="username"
            width="w-full"
            value={account.email}
            error={doing.at('/email')}
            change={set('email')}
          />
        </>
      )}
      <Typed
        label={`${fixed ? 'New password' : 'Password'}: at least 8 characters; a few words do well`}
        type="password"
        autoComplete="new-password"
        width="w-full"
        value={account.password}
        error={doing.at('/password')}
        change={set('password')}
      />
      {doing.error && !known && <FieldError>{doing.error.message}</FieldError>}
      {children}
      <div>
        <Button type="submit" className="border-ink px-4 font-semibold" disabled={doing.busy}>
          {act}
        </Button>
      </div>
    </form>
  )
}
