import { useEffect, useState } from 'react'

/** Whether something has stayed as it is for a moment: what costs others work waits for that. */
export function useSettled(key: string, milliseconds = 250): boolean {
  const [settled, setSettled] = useState('')
  useEffect(() => {
    const timer = setTimeout(() => setSettled(key), milliseconds)
    return () => clearTimeout(timer)
  }, [key, milliseconds])
  return settled === key
}
