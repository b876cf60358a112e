import { useQueryClient } from '@tanstack/react-query'
import { Link } from 'react-router'
import { answerOf, api } from '../api/client'
import { signedOut } from '../api/signed'
import { useWorkshop } from '../edits/workshop'
import { Button } from '../ui/button'
import { Pop } from '../ui/pop'
import { roleName, useSession } from '../setup/session'

/** Who is signed in, their account, and the way out. */
export function PersonMenu() {
  const { data: session } = useSession()
  const { edits } = useWorkshop()
  const client = useQueryClient()
  const person = session?.person
  if (!person) return null
  const leave = async () => {
    await edits.idle()
    await answerOf(api.DELETE('/api/session'))
    client.clear()
    signedOut(true)
    window.location.assign('/')
  }
  return (
    <Pop
      className="quiet max-w-28 truncate font-cond max-sm:max-w-16"
      label={`${person.name}: account and signing out`}
      button={person.name}
      align="end"
      contentClass="min-w-52 border border-ink bg-white p-3"
    >
      {(close) => (
        <>
          <p className="font-medium">{person.name}</p>
          <p className="text-soft">
            {roleName(person.role)}
            {person.role === 'viewer' && ': looks at everything and changes nothing'}
          </p>
          <p className="mt-2 flex flex-col items-start gap-1.5">
            <Link to="/shop/me" className="underline" onClick={close}>
              My account
            </Link>
            {person.role === 'owner' && (
              <Link to="/shop/people" className="underline" onClick={close}>
                People
              </Link>
            )}
            <Button onClick={() => void leave()}>Sign out</Button>
          </p>
        </>
      )}
    </Pop>
  )
}
