import { useSyncExternalStore } from 'react'

/** The release on which the bench stands; null for the draft. */
let release: number | null = null
const listeners = new Set<() => void>()

export function standOn(next: number | null) {
  release = next
  for (const listener of listeners) listener()
}

export function useStandsOn(): number | null {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => release,
  )
}
