import { ArrowDown, ArrowUp, Copy, Trash2 } from 'lucide-react'
import { Link } from 'react-router'
import type { Zone } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { removed, useActs } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { Field } from '../forms/field'
import { counted } from '../ui/locale'
import { Switch } from '../ui/switch'
import { DutyEditor } from './duty'
import { Areas } from './areas'
import { Button } from '../ui/button'

/** One zone, edited in place. */
export function ZoneEditor({ zone, index, rates }: { zone: Zone; index: number; rates: number }) {
  const { setup } = useWorkshop()
  const acts = useActs()
  const edited = useEdited('zones', zone)
  const name = zone.name ?? ''
  return (
    <div className="mb-2 flex flex-wrap items-start gap-x-5 gap-y-3 border-l-4 border-ink bg-paper px-3 py-3">
      <Field
        of={edited}
        at="name"
        label="Zone name"
        inputId={`zone-${zone.id}-name`}
        width="w-64"
        autoFocus
      />
      <div className="flex flex-col gap-1">
        <span className="font-cond text-soft">This zone</span>
        <Switch
          label={`Zone ${zone.name}`}
          on={edited.doc.active ?? true}
          change={(active) => edited.put('active', `Zone ${name}`, () => ({ active }))}
        />
      </div>
      <Field
        of={edited}
        at="nothing_text"
        label="Message when no method is available"
        width="w-80"
        placeholder={setup.store?.nothing_text ?? 'No message'}
        write={(text) => ({ nothing_text: text.trim() || null })}
      />
      <div className="ml-auto flex flex-wrap gap-1 pt-5">
        <Button look="quiet" disabled={index === 0} onClick={() => acts.move('zones', zone.id, name, -1)}>
          <ArrowUp size={14} aria-hidden /> Move up
        </Button>
        <Button
          look="quiet"
          disabled={index === setup.zones.length - 1}
          onClick={() => acts.move('zones', zone.id, name, 1)}
        >
          <ArrowDown size={14} aria-hidden /> Move down
        </Button>
        <Button
          look="quiet"
          onClick={() => acts.duplicate('zones', zone.id, name, undefined, ', with its rates')}
        >
          <Copy size={14} aria-hidden /> Duplicate
        </Button>
        <Link className="quiet underline" to={`/proofs/walk#zone=${zone.id}`}>
          Walk its edges
        </Link>
        <Button look="quiet" onClick={() => acts.remove('zones', zone, name, { said: removed(name, rates) })}>
          <Trash2 size={14} aria-hidden /> Remove{rates > 0 ? ` with ${counted(rates, 'rate')}` : ''}
        </Button>
      </div>
      <Areas zone={zone} />
      <DutyEditor zone={zone} />
    </div>
  )
}
