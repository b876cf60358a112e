import { ArrowDown, ArrowUp, Copy, Trash2 } from 'lucide-react'
import type { Zone } from '../api/client'
import { useWorkshop } from '../api/setup'
import { Field } from '../ui/field'
import { counted } from '../ui/format'
import { Switch } from '../ui/switch'
import { DutyEditor } from '../zones/duty'
import { Areas } from '../zones/areas'
import { useEdits } from './edits'

/** One zone, edited in place. */
export function ZoneEditor({ zone, index, rates }: { zone: Zone; index: number; rates: number }) {
  const { setup } = useWorkshop()
  const edits = useEdits()
  return (
    <div className="mb-2 flex flex-wrap items-start gap-x-5 gap-y-3 border-l-4 border-ink bg-paper px-3 py-3">
      <Field
        label="Zone’s name"
        inputId={`zone-${zone.id}-name`}
        width="w-64"
        autoFocus
        value={zone.name ?? ''}
        version={zone.lock_version}
        pointer="/name"
        save={(typed, version) => edits.patchZone(zone, { name: typed }, version)}
        read={(current) => (current as Zone).name ?? ''}
      />
      <div className="flex flex-col gap-1">
        <span className="font-cond text-soft">This zone</span>
        <Switch
          label={`Zone ${zone.name}`}
          on={zone.active ?? true}
          change={(on) => void edits.switchZone(zone, on)}
        />
      </div>
      <Field
        label="Where nothing can be chosen, the shopper reads"
        width="w-80"
        placeholder={setup.store?.nothing_text ?? 'nothing said'}
        value={zone.nothing_text ?? ''}
        version={zone.lock_version}
        pointer="/nothing_text"
        save={(typed, version) => edits.patchZone(zone, { nothing_text: typed.trim() || null }, version)}
        read={(current) => (current as Zone).nothing_text ?? ''}
      />
      <div className="ml-auto flex flex-wrap gap-1 pt-5">
        <button
          type="button"
          className="quiet"
          disabled={index === 0}
          onClick={() => void edits.moveZone(index, -1)}
        >
          <ArrowUp size={14} aria-hidden /> Move up
        </button>
        <button
          type="button"
          className="quiet"
          disabled={index === setup.zones.length - 1}
          onClick={() => void edits.moveZone(index, 1)}
        >
          <ArrowDown size={14} aria-hidden /> Move down
        </button>
        <button type="button" className="quiet" onClick={() => void edits.copyZone(zone)}>
          <Copy size={14} aria-hidden /> Duplicate
        </button>
        <button type="button" className="quiet" onClick={() => void edits.removeZone(zone, rates)}>
          <Trash2 size={14} aria-hidden /> Remove{rates > 0 ? ` with ${counted(rates, 'rate')}` : ''}
        </button>
      </div>
      <Areas zone={zone} />
      <DutyEditor zone={zone} />
    </div>
  )
}
