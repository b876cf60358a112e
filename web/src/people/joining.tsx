import { useQuery } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { answerOf, api } from '../api/client'
import { Answer } from '../ui/answer'
import { AccountForm } from './account-form'
import { aRole, ROLES } from '../setup/session'
import { AtTheDoor, useLetIn } from './sign-in'

/** Behind a link that lets somebody in: an account of one's own, or a new password. */
export function Joining() {
  const link = window.location.hash.slice(1)
  const navigate = useNavigate()
  const letIn = useLetIn()
  const look = useQuery({
    queryKey: ['joining', link],
    queryFn: ({ signal }) => answerOf(api.POST('/api/joining/look', { body: { link }, signal })),
    retry: false,
  })
  return (
    <Answer of={look}>
      {({ role, by, person, email }) => (
        <AtTheDoor title={person ? 'Choose a new password' : 'Join'}>
          <p className="mb-4">
            {person ? (
              <>
                For the account of <b>{person}</b> ({email}). Wherever it is signed in now, its sessions end.
              </>
            ) : (
              <>
                {by ?? 'Whoever runs this server'} lets you in as <b>{aRole(role)}</b>, who{' '}
                {ROLES.find(([one]) => one === role)?.[2]}.
              </>
            )}
          </p>
          <AccountForm
            fixed={email}
            act={person ? 'Set the password and sign in' : 'Join'}
            make={async (account) => {
              await answerOf(
                api.POST('/api/joining', {
                  body: person ? { link, password: account.password } : { link, ...account },
                }),
              )
              await navigate('/', { replace: true })
              await letIn()
            }}
          />
        </AtTheDoor>
      )}
    </Answer>
  )
}
