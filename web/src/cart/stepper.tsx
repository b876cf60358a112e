import { Minus, Plus } from 'lucide-react'
import { useState } from 'react'
import { MOST_UNITS } from './cart'
import { Fault } from '../ui/alerts'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

/** A whole number with buttons; arrow keys step, typing sets. What can't be a quantity stays typed and says so. */
export function Stepper({
  label,
  value,
  change,
}: {
  label: string
  value: number
  change: (value: number) => void
}) {
  const [draft, setDraft] = useState<string | null>(null)
  const wrong =
    draft !== null && !(/^\d{1,7}$/.test(draft) && Number(draft) >= 1 && Number(draft) <= MOST_UNITS)

  const type = (text: string) => {
    const number = Number(text)
    const good = /^\d{1,7}$/.test(text) && number >= 1 && number <= MOST_UNITS
    setDraft(good ? null : text)
    if (good) change(number)
  }
  const step = (by: number) => {
    setDraft(null)
    change(Math.max(1, Math.min(MOST_UNITS, value + by)))
  }

  return (
    <span className="inline-flex flex-col items-end">
      <span className="inline-flex items-center rounded-xs border border-edge bg-white">
        <Button
          look="bare"
          className="grid size-7 place-items-center"
          aria-label={`One less: ${label}`}
          disabled={value <= 1}
          onClick={() => step(-1)}
        >
          <Minus size={13} aria-hidden />
        </Button>
        <Input
          bare
          className="w-7 bg-transparent text-center"
          inputMode="numeric"
          aria-label={`Quantity: ${label}`}
          aria-invalid={wrong || undefined}
          value={draft ?? String(value)}
          onChange={(event) => type(event.target.value)}
          onBlur={() => draft === '' && setDraft(null)}
          onKeyDown={(event) => {
            if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
              event.preventDefault()
              step(event.key === 'ArrowUp' ? 1 : -1)
            }
          }}
        />
        <Button
          look="bare"
          className="grid size-7 place-items-center"
          aria-label={`One more: ${label}`}
          onClick={() => step(1)}
        >
          <Plus size={13} aria-hidden />
        </Button>
      </span>
      {wrong && draft !== '' && (
        <Fault className="text-right text-xs font-medium text-brick">1 to 1,000,000, whole</Fault>
      )}
    </span>
  )
}
