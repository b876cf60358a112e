import { useSyncExternalStore } from 'react'

const NAME = 'gate-mile:one-key-shortcuts'
const listeners = new Set<() => void>()

const on = () => localStorage.getItem(NAME) !== 'off'

/** Whether single keys do something; for those who dictate, or whose hands shake, they can be switched off. */
export function useOneKey(): [boolean, (on: boolean) => void] {
  const value = useSyncExternalStore((listener) => {
    listeners.add(listener)
    return () => {
      listeners.delete(listener)
    }
  }, on)
  return [
    value,
    (next) => {
      localStorage.setItem(NAME, next ? 'on' : 'off')
      listeners.forEach((listener) => listener())
    },
  ]
}
