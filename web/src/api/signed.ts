/** Whether the server has said that somebody has to sign in first. */
let out = false
const listeners = new Set<() => void>()

/** Called where an answer says it, and where somebody has signed in. */
export function signedOut(now: boolean) {
  if (out === now) return
  out = now
  listeners.forEach((listener) => listener())
}

export const signed = {
  subscribe: (listener: () => void) => {
    listeners.add(listener)
    return () => {
      listeners.delete(listener)
    }
  },
  out: () => out,
}
