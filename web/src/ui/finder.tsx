import { useState } from 'react'
import { Input } from './input'
import { contains } from './plain'

/** Up to so many a list is read rather than searched. */
const READ = 12

/** What a merchant looks for in a list, and whether something is it. */
export function useFinder() {
  const [sought, setSought] = useState('')
  return { sought, setSought, finds: (text: string) => contains(text, sought) }
}

/** Narrows a long list to what has all the words that are typed; a short list has none. */
export function Finder({
  of: { sought, setSought },
  label,
  placeholder,
  count,
  read = READ,
  className = '',
}: {
  of: ReturnType<typeof useFinder>
  label: string
  placeholder: string
  /** How many there are in all. */
  count: number
  read?: number
  className?: string
}) {
  return count > read || sought ? (
    <Input
      type="search"
      className={className}
      aria-label={label}
      placeholder={placeholder}
      value={sought}
      onChange={(event) => setSought(event.target.value)}
    />
  ) : null
}
