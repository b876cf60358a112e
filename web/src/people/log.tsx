import { useInfiniteQuery } from '@tanstack/react-query'
import { answerOf, api, type Schemas } from '../api/client'
import { Button } from '../ui/button'
import { timeWords } from '../ui/moment'
import { Empty } from '../ui/said'
import { Table } from '../ui/table'
import { useSession } from '../setup/session'

type Entry = Schemas['AuditEntry']

/** Entries that are asked for at a time. */
const PAGE = 100

const WORDS: Record<Entry['what'], string> = {
  signed_in: 'signed in',
  sign_in_refused: 'a sign-in was refused',
  signed_out: 'signed out',
  session_ended: 'ended a session',
  invited: 'made a link to join',
  invitation_withdrawn: 'withdrew a link',
  joined: 'joined',
  reset_made: 'made a link to a new password',
  password_changed: 'has a new password',
  role_changed: 'changed a role',
  person_removed: 'removed an account',
  codes_on: 'switched one-time codes on',
  codes_off: 'switched one-time codes off',
  recovery_codes_made: 'made new recovery codes',
  recovery_code_used: 'used a recovery code',
  key_made: 'made a key',
  key_changed: 'changed a key',
  key_rotated: 'rotated a key',
  key_revoked: 'revoked a key',
  door_changed: 'changed what quotes promise',
  webhook_made: 'added a webhook',
  webhook_changed: 'changed a webhook',
  webhook_removed: 'removed a webhook',
  published: 'published',
  went_back: 'went back',
  withdrawn: 'withdrew a planned release',
  exported: 'exported',
  backup_taken: 'took a backup',
  access_refused: 'asked for more than their role allows',
}

/** What was done that is no edit of the setup, for owners. */
export function AuditLog() {
  const { data: session } = useSession()
  const open = session?.person?.role === 'owner' || session?.open === true
  const log = useInfiniteQuery({
    queryKey: ['people', 'log'],
    enabled: open,
    initialPageParam: 0,
    queryFn: ({ pageParam, signal }) =>
      answerOf(
        api.GET('/api/audit', {
          params: { query: { limit: PAGE, ...(pageParam > 0 && { before: pageParam }) } },
          signal,
        }),
      ),
    getNextPageParam: ({ entries }) => (entries.length === PAGE ? entries.at(-1)?.id : undefined),
  })
  if (session && !open) return <Empty>Only owners read the audit log.</Empty>
  const entries = log.data?.pages.flatMap((page) => page.entries)
  if (!entries)
    return <p className="py-1 text-soft">{log.error ? log.error.message : 'Fetching the log …'}</p>
  return (
    <div className="max-w-4xl">
      <p className="mb-2 text-soft">
        Sign-ins, keys, releases, exports and what was done to accounts, kept for 400 days. Edits of the setup
        stand in its history.
      </p>
      {entries.length === 0 ? (
        <Empty>No entries yet.</Empty>
      ) : (
        <Table aria-label="Audit log" className="w-full">
          <thead>
            <tr className="border-b border-ink text-left font-cond text-soft">
              {['When', 'Who', 'What', 'From'].map((name) => (
                <th key={name} className="py-1 pr-4 font-normal">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {entries.map(({ id, at, by, what, about, source }) => (
              <tr key={id} className="border-t border-hair align-top">
                <td className="py-1 pr-4 whitespace-nowrap">
                  <time dateTime={at}>{timeWords(at, { dateStyle: 'short', timeStyle: 'medium' })}</time>
                </td>
                <td className="py-1 pr-4">{by ?? (what === 'sign_in_refused' ? '' : 'at the machine')}</td>
                <td className="py-1">
                  {WORDS[what]}
                  {about && <span className="text-soft">: {about}</span>}
                </td>
                <td className="py-1 text-soft tabular-nums">{source}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {log.hasNextPage && (
        <Button className="mt-2" disabled={log.isFetching} onClick={() => void log.fetchNextPage()}>
          Show older entries
        </Button>
      )}
    </div>
  )
}
