import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answerOf, api, type Schemas } from '../api/client'
import { useEditedBeside } from '../edits/edited'
import { useAct } from '../edits/use-act'
import { Answer } from '../ui/answer'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import { timeWords } from '../ui/moment'
import { Badge, Empty } from '../ui/said'
import { Select } from '../ui/select'
import { Sure } from '../ui/sure'
import { Table } from '../ui/table'
import { Trouble } from '../forms/trouble'
import { Once } from '../ui/once'
import { AccountForm } from './account-form'
import { aRole, ROLES, useSession, type Person, type Role } from '../setup/session'
import { useLetIn } from './sign-in'

const WHEN = { dateStyle: 'medium', timeStyle: 'short' } as const

/** A link is shown once, as somebody can open it. */
const linkOf = (words: string) => `${window.location.origin}/joining#${words}`

interface Told {
  what: string
  link: string
}

/** Who may use the workbench, for owners; and the first account, where there is none. */
export function People() {
  const { data: session } = useSession()
  if (!session) return null
  if (!session.accounts) return <First />
  if (session.person?.role !== 'owner')
    return <Empty>Only owners can see the other accounts and invite people.</Empty>
  return <Everybody me={session.person.id} />
}

function First() {
  const letIn = useLetIn()
  return (
    <section aria-label="The first account" className="max-w-2xl">
      <p className="mb-4">
        Nobody signs in yet: the workbench answers on this machine alone. Make the first account, and from
        then on everybody signs in, here and from wherever you let it be reached. You will be its <b>owner</b>
        , and can let others in.
      </p>
      <AccountForm
        act="Make the first account"
        make={async (account) => {
          await answerOf(api.POST('/api/joining/first', { body: account }))
          await letIn()
        }}
      />
    </section>
  )
}

function Everybody({ me }: { me: string }) {
  const [told, setTold] = useState<Told | null>(null)
  const people = useQuery({
    queryKey: ['people'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/people', { signal })),
  })
  return (
    <div className="max-w-5xl">
      {told && <Once what={told.what} text={told.link} close={() => setTold(null)} />}
      <Answer of={people}>
        {({ people: list, invitations }) => (
          <>
            <Table aria-label="People" className="w-full">
              <thead>
                <tr className="border-b border-ink text-left font-cond text-soft">
                  {['Name', 'Role', 'One-time codes', 'Signed in'].map((name) => (
                    <th key={name} className="py-1 pr-4 font-normal">
                      {name}
                    </th>
                  ))}
                  <th>
                    <span className="sr-only">What can be done</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {list.map((one) => (
                  <Row key={one.id} of={one} me={one.id === me} tell={setTold} />
                ))}
              </tbody>
            </Table>
            <Invite tell={setTold} />
            {invitations.length > 0 && <Open invitations={invitations} people={list} />}
          </>
        )}
      </Answer>
    </div>
  )
}

function Row({ of, me, tell }: { of: Person; me: boolean; tell: (told: Told) => void }) {
  const thing = `/api/people/${of.id}`
  const path = { params: { path: { id: of.id } } }
  const edited = useEditedBeside<Person>(thing, 'people', of, (to, { role }, { edition, role: stood }) =>
    to.PATCH('/api/people/{id}', { ...path, body: { role: role ?? stood, edition } }),
  )
  const reset = useAct(thing, 'reset', `A new password for ${of.name}`, 'people')
  const ending = useAct(thing, 'sessions', `End the sessions of ${of.name}`, 'people')
  const codes = useAct(thing, 'codes', `Codes off for ${of.name}`, 'people')
  const removal = useAct(thing, 'remove', `Remove ${of.name}`, 'people')
  const acts = [reset, ending, codes, removal]
  const busy = acts.some((one) => one.busy)
  const refused = acts.find((one) => one.message)?.message
  return (
    <tr className="border-t border-hair align-top">
      <th scope="row" className="py-1.5 pr-4 text-left font-medium">
        {of.name} {me && <Badge>you</Badge>}
        <span className="block text-xs font-normal break-all text-soft">{of.email}</span>
      </th>
      <td className="py-1 pr-4">
        <Select<Role>
          label={`Role of ${of.name}`}
          value={edited.doc.role}
          choices={ROLES.map(([role, name]) => [role, name] as const)}
          choose={(role) => edited.put('role', `Role of ${of.name}`, () => ({ role }))}
        />
        <Trouble of={edited} at="role" />
      </td>
      <td className="py-1.5 pr-4">{of.codes ? 'on' : 'off'}</td>
      <td className="py-1.5 pr-4">
        {of.sessions ? `in ${of.sessions} ${of.sessions === 1 ? 'browser' : 'browsers'}` : 'nowhere'}
      </td>
      <td className="py-1 text-right">
        {!me && (
          <>
            <Button
              look="quiet"
              disabled={busy}
              onClick={() =>
                reset.beside(
                  (to) => to.POST('/api/people/{id}/reset', path),
                  ({ link }) =>
                    tell({
                      what: `Within a day, ${of.name} chooses a new password at this link.`,
                      link: linkOf(link),
                    }),
                )
              }
            >
              New password …
            </Button>
            {(of.sessions ?? 0) > 0 && (
              <Button
                look="quiet"
                disabled={busy}
                onClick={() => ending.beside((to) => to.DELETE('/api/people/{id}/sessions', path))}
              >
                End sessions
              </Button>
            )}
            {of.codes && (
              <Sure
                act="Codes off"
                really={`Ask ${of.name} for no codes any more`}
                disabled={busy}
                run={() => codes.beside((to) => to.DELETE('/api/people/{id}/codes', path))}
              />
            )}
            <Sure
              act="Remove"
              really={`Remove ${of.name}: signed out at once`}
              disabled={busy}
              run={() => removal.beside((to) => to.DELETE('/api/people/{id}', path))}
            />
          </>
        )}
        {refused && <FieldError>{refused}</FieldError>}
      </td>
    </tr>
  )
}

function Invite({ tell }: { tell: (told: Told) => void }) {
  const [role, setRole] = useState<Role>('editor')
  const invitation = useAct('/api/invitations', 'invite', 'Invite someone', 'people')
  const invite = () =>
    invitation.beside(
      (to) => to.POST('/api/invitations', { body: { role } }),
      ({ link }) =>
        tell({
          what: `Whoever opens this link within seven days joins as ${aRole(role)}.`,
          link: linkOf(link),
        }),
    )
  return (
    <section aria-label="Invite someone" className="mt-4 border-t border-ink pt-2">
      <h2 className="mb-1 text-lg">Invite someone</h2>
      <div className="flex flex-wrap items-center gap-3">
        <Select<Role>
          label="As"
          value={role}
          choices={ROLES.map(([one, name, words]) => [one, `${name}: ${words}`] as const)}
          choose={setRole}
        />
        <Button className="border-ink font-semibold" disabled={invitation.busy} onClick={invite}>
          Create a link
        </Button>
      </div>
      <p className="mt-1 text-soft">
        The link is shown once, works once, and holds for seven days. Hand it over in a way that nobody else
        reads.
      </p>
      {invitation.message && <FieldError>{invitation.message}</FieldError>}
    </section>
  )
}

function Open({ invitations, people }: { invitations: Schemas['Invitation'][]; people: Person[] }) {
  const withdrawal = useAct('/api/invitations', 'withdraw', 'Withdraw a link', 'people')
  return (
    <section aria-label="Open invitations" className="mt-4">
      <h2 className="mb-1 text-lg">Open invitations</h2>
      <ul>
        {invitations.map(({ id, role, person, by, ends_at: ends }) => (
          <li
            key={id}
            className="flex flex-wrap items-baseline justify-between gap-x-4 border-t border-hair py-1"
          >
            <span>
              {role
                ? `To join as ${aRole(role)}`
                : `To a new password for ${people.find((one) => one.id === person)?.name ?? 'somebody'}`}
              <span className="text-soft">
                , made by {by ?? 'a command on the server'}, until {timeWords(ends, WHEN)}
              </span>
            </span>
            <Button
              look="quiet"
              disabled={withdrawal.busy}
              onClick={() =>
                withdrawal.beside((to) => to.DELETE('/api/invitations/{id}', { params: { path: { id } } }))
              }
            >
              Withdraw
            </Button>
          </li>
        ))}
      </ul>
      {withdrawal.message && <FieldError>{withdrawal.message}</FieldError>}
    </section>
  )
}
