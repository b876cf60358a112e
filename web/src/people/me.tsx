import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../edits/use-act'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { timeWords } from '../ui/moment'
import { Badge, Empty } from '../ui/said'
import { toast } from '../ui/toast'
import { Typed } from '../ui/typed'
import { Codes } from './codes'
import { aRole, type Person } from '../setup/session'

const WHEN = { dateStyle: 'medium', timeStyle: 'short' } as const

/** Oneself: name, email, password, one-time codes, and the browsers in which one is signed in. */
export function MyAccount() {
  const me = useQuery({
    queryKey: ['people', 'me'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/me', { signal })),
  })
  return (
    <Answer of={me}>
      {({ person, sessions, recovery_codes: left }) =>
        person ? (
          <div className="flex max-w-3xl flex-col gap-6">
            <Fields key={person.id} person={person} />
            <Codes on={person.codes} left={left} />
            <Sessions list={sessions} />
          </div>
        ) : (
          <Empty>Nobody is signed in: there is no account yet. The first one is made under People.</Empty>
        )
      }
    </Answer>
  )
}

function Fields({ person }: { person: Person }) {
  const client = useQueryClient()
  const saving = useAct('/api/me', 'save', 'My account', 'people')
  // Only what was typed: the rest shows what is stored, whoever has changed it.
  const [typed, setTyped] = useState<Partial<Record<'name' | 'email' | 'password' | 'current', string>>>({})
  const { name = person.name, email = person.email, password = '', current = '' } = typed
  const set = (field: keyof typeof typed) => (text: string) => setTyped({ ...typed, [field]: text })
  const confirm = email !== person.email || password !== ''
  const changes = {
    ...(name !== person.name && { name }),
    ...(email !== person.email && { email }),
    ...(password && { password }),
    ...(confirm && { current }),
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    saving.beside(
      (to) => to.PATCH('/api/me', { body: { ...changes, edition: person.edition } }),
      () => {
        setTyped({})
        toast(password ? 'Saved. Everywhere else you are signed out.' : 'Saved')
        void client.invalidateQueries({ queryKey: ['session'] })
      },
    )
  }
  const known = ['/name', '/email', '/password', '/current'].some((field) => saving.at(field))
  return (
    <form noValidate aria-label="My account" onSubmit={submit} className="flex flex-col gap-3">
      <p className="text-soft">You are {aRole(person.role)} here.</p>
      <div className="flex flex-wrap gap-x-5 gap-y-3">
        <Typed
          label="Name, as the others see it"
          autoComplete="name"
          width="w-64"
          value={name}
          error={saving.at('/name')}
          change={set('name')}
        />
        <Typed
          label="Email"
          type="email"
          autoComplete="username"
          width="w-64"
          value={email}
          error={saving.at('/email')}
          change={set('email')}
        />
        <Typed
          label="New password"
          type="password"
          autoComplete="new-password"
          width="w-64"
          value={password}
          error={saving.at('/password')}
          change={set('password')}
        />
        {confirm && (
          <Typed
            label="Your password as it is now"
            type="password"
            autoComplete="current-password"
            width="w-64"
            value={current}
            error={saving.at('/current')}
            change={set('current')}
          />
        )}
      </div>
      {saving.message && !known && <FieldError>{saving.message}</FieldError>}
      <div>
        <Button
          type="submit"
          className="border-ink px-4 font-semibold"
          disabled={saving.busy || Object.keys(changes).length === 0}
        >
          Save
        </Button>
      </div>
    </form>
  )
}

function Sessions({ list }: { list: Schemas['Session'][] }) {
  const ending = useAct('/api/me/sessions', 'end', 'End a session', 'people')
  const end = (id: string) =>
    ending.beside((to) => to.DELETE('/api/me/sessions/{id}', { params: { path: { id } } }))
  return (
    <section aria-label="Where you are signed in" className="border-t border-ink pt-2">
      <h2 className="mb-1 text-lg">Where you are signed in</h2>
      <ul>
        {list.map(({ id, browser, made_at: made, seen_at: seen, current }) => (
          <li
            key={id}
            className="flex flex-wrap items-baseline justify-between gap-x-4 border-t border-hair py-1"
          >
            <span>
              {browser} {current && <Badge>this one</Badge>}
              <span className="block text-xs text-soft">
                since {timeWords(made, WHEN)}, last used {timeWords(seen, WHEN)}
              </span>
            </span>
            {!current && (
              <Button look="quiet" disabled={ending.busy} onClick={() => end(String(id))}>
                End this session
              </Button>
            )}
          </li>
        ))}
      </ul>
      {list.length > 2 && (
        <Button look="quiet" disabled={ending.busy} onClick={() => end('others')}>
          End all but this one
        </Button>
      )}
      <p className="mt-1 text-soft">
        A session ends by itself after twelve hours without use, and after a week.
      </p>
      {ending.message && <FieldError>{ending.message}</FieldError>}
    </section>
  )
}
