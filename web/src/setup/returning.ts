import { focusManager, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { answerOf, api, type SetupState } from '../api/client'
import { SETUP } from './queries'

/** Prices by the clock, and after how many milliseconds they are fetched again when somebody comes back. */
const BY_CLOCK = ['bench', 'gates', 'lines', 'tariff', 'margins']
const LONG = 300_000

/** Asks one small question when the page is looked at again, and for the rest only where it has changed. */
export function useReturning() {
  const client = useQueryClient()
  const seen = useRef(0)
  useEffect(() => {
    seen.current = Date.now()
  }, [])
  useEffect(
    () =>
      focusManager.subscribe((focused) => {
        const known = client.getQueryData<SetupState>(SETUP)
        if (!focused || !known) return
        // Offers begin and cutoffs pass while nobody looks.
        if (Date.now() - seen.current > LONG)
          for (const key of BY_CLOCK) void client.invalidateQueries({ queryKey: [key] })
        seen.current = Date.now()
        void answerOf(api.GET('/api/revision')).then(
          ({ revision, beside }) => {
            if (revision === known.revision && beside === known.beside) return
            void client.invalidateQueries({ queryKey: SETUP })
            if (revision !== known.revision) void client.invalidateQueries({ queryKey: ['products'] })
            if (beside !== known.beside)
              for (const key of ['releases', 'people', 'session'])
                void client.invalidateQueries({ queryKey: [key] })
          },
          // The bar says that the server is away.
          () => undefined,
        )
      }),
    [client],
  )
}
