import { useState } from 'react'
import type { Rate } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useActs } from '../edits/acts'
import { counted } from '../ui/locale'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'

/** The same price for the method in other zones; what stands there is replaced, and can be undone. */
export function CopyRate({ rate, name }: { rate: Rate; name: string }) {
  const { setup, send } = useWorkshop()
  const { act } = useActs()
  const [chosen, setChosen] = useState<string[]>([])
  const others = setup.zones.filter(({ id }) => id !== rate.zone)
  const there = (zone: string) =>
    setup.rates.some((other) => other.zone === zone && other.method === rate.method)
  const replaced = chosen.filter(there).length
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
      {others.map((zone) => (
        <Tick
          key={zone.id}
          label={`Copy to ${zone.name}`}
          on={chosen.includes(zone.id)}
          change={(on) => setChosen(on ? [...chosen, zone.id] : chosen.filter((id) => id !== zone.id))}
        >
          {zone.name}
          {there(zone.id) && <span className="text-xs text-soft">has it</span>}
        </Tick>
      ))}
      <Button
        disabled={chosen.length === 0}
        onClick={() => {
          act(`/api/rates/${rate.id}/copy`, 'copy', `Copy ${name} to ${counted(chosen.length, 'zone')}`, () =>
            send(
              (to) =>
                to.POST('/api/rates/{id}/copy', {
                  params: { path: { id: rate.id } },
                  body: { ids: chosen },
                }),
              `Copied ${name} to ${counted(chosen.length, 'zone')}`,
            ).then(() => undefined),
          )
          setChosen([])
        }}
      >
        Copy it{replaced > 0 && `, and replace ${replaced}`}
      </Button>
    </div>
  )
}
