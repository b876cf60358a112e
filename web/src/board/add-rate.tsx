import { Plus } from 'lucide-react'
import { useState } from 'react'
import type { Method, Zone } from '../api/client'
import type { Formats } from '../ui/format'
import { lazily } from '../ui/lazily'
import { Button } from '../ui/button'

const AddRateForm = lazily(async () => (await import('./add-rate-form')).AddRateForm)

/** Puts a method into a zone. */
export function AddRate({ zone, methods, formats }: { zone: Zone; methods: Method[]; formats: Formats }) {
  const [open, setOpen] = useState(false)
  if (open)
    return <AddRateForm zone={zone} methods={methods} formats={formats} close={() => setOpen(false)} />
  return (
    <Button look="quiet" className="my-1 -ml-1.5" onClick={() => setOpen(true)}>
      <Plus size={14} aria-hidden /> Add a method<span className="sr-only"> to {zone.name}</span>
    </Button>
  )
}
