/** Whether the server answers, as far as the last request could tell. */
let away = false
const listeners = new Set<() => void>()

/** Called after every request. */
export function heard(answered: boolean) {
  if (away === !answered) return
  away = !answered
  listeners.forEach((listener) => listener())
}

export const connection = {
  subscribe: (listener: () => void) => {
    listeners.add(listener)
    return () => {
      listeners.delete(listener)
    }
  },
  away: () => away,
}
