import { useState } from 'react'
import { useBenchResult } from '../cart/result'
import { useWorkshop } from '../edits/workshop'
import { lazily } from '../ui/lazily'
import { Button } from '../ui/button'

const Packed = lazily(async () => (await import('./packed')).Packed)

/**
 * How the bench cart is packed: each parcel with its contents, its fill and its weights, drawn layer by layer. It appears
 * together with the methods above it, so that it does not move while somebody is about to click it.
 */
export function BenchParcels() {
  const { setup } = useWorkshop()
  const { bench } = useBenchResult()
  const [open, setOpen] = useState(false)
  const own = setup.rates.filter(({ plan }) => plan?.parcels?.kind === 'boxes')
  if (!bench) return null
  if (!setup.boxes.length && setup.store.parcels?.kind === 'one') return null
  return (
    <section aria-label="Parcels of the bench cart">
      <Button
        look="quiet"
        className="px-0 underline underline-offset-2"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        How is it packed?
      </Button>
      {open && <Packed rates={own} />}
    </section>
  )
}
