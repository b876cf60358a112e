import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent, type ReactNode } from 'react'
import { ApiProblem } from '../api/client'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { Input } from '../ui/input'
import { Typed } from '../ui/typed'

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
  const client = useQueryClient()
  const making = useMutation({
    mutationFn: make,
    // Refused or not, it may stand otherwise than it is shown.
    onSettled: () => client.invalidateQueries({ queryKey: ['session'] }),
  })
  const at = (pointer: string) => (making.error instanceof ApiProblem ? making.error.at(pointer) : undefined)
  const set = (field: keyof Account) => (text: string) => setAccount({ ...account, [field]: text })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    making.mutate(account)
  }
  const known = ['/name', '/email', '/password'].some(at)
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
            error={at('/name')}
            change={set('name')}
          />
          <Typed
            label="Email, to sign in with (nothing is sent there)"
            type="email"
            autoComplete="username"
            width="w-full"
            value={account.email}
            error={at('/email')}
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
        error={at('/password')}
        change={set('password')}
      />
      {making.error && !known && <FieldError>{making.error.message}</FieldError>}
      {children}
      <div>
        <Button type="submit" className="border-ink px-4 font-semibold" disabled={making.isPending}>
          {act}
        </Button>
      </div>
    </form>
  )
}
