import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useSyncExternalStore } from 'react'
import { api, answerOf } from '../api/client'
import { connection } from '../api/connection'
import { useWorkshop } from '../edits/workshop'
import { signed } from '../api/signed'

/** Says when the server is away, looks whether it is back, and then goes on where things stopped; so it does when
 * somebody has signed in again. */
export function Away() {
  const { edits } = useWorkshop()
  const client = useQueryClient()
  const away = useSyncExternalStore(connection.subscribe, connection.away)
  const out = useSyncExternalStore(signed.subscribe, signed.out)
  const was = useRef(away)
  const wasOut = useRef(out)
  useEffect(() => {
    if (wasOut.current && !out) edits.resume()
    wasOut.current = out
  }, [out, edits])
  useEffect(() => {
    if (was.current && !away) {
      edits.resume()
      void client.invalidateQueries()
    }
    was.current = away
  }, [away, edits, client])
  useQuery({
    queryKey: ['back'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/carriers/state', { signal })),
    enabled: away,
    refetchInterval: 2000,
    retry: false,
    gcTime: 0,
    networkMode: 'always',
  })
  if (!away) return null
  return (
    <p role="alert" className="bg-ink px-4 py-1.5 text-white">
      The server does not answer. What you see stays, what you type is kept, and it is stored as soon as the
      server is back.
    </p>
  )
}
