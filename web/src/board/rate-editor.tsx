import { byId } from '../api/by-id'
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react'
import { useCallback, useState } from 'react'
import { Link } from 'react-router'
import type { Method, Plan, Rate } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { usePreview } from '../cart/result'
import { useActs } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { Field } from '../forms/field'
import type { Formats } from '../ui/format'
import { Switch } from '../ui/switch'
import { amountOf, isPlain } from '../plans/draft'
import { PlanEditor } from '../plans/plan-editor'
import { PlanZone } from '../plans/plan-zone'
import { Fold } from '../ui/fold'
import { LiveEditor } from '../carriers/live-editor'
import { CopyRate } from './copy-rate'
import { Narrowed } from './narrowed'
import { Button } from '../ui/button'

interface Props {
  rate: Rate
  method: Method
  formats: Formats
  siblings: Rate[]
  /** The field that should have the focus, when a reckoning led here. */
  focus: string | null
}

/** The place of a flat price. */
const AMOUNT = 'plan amount'

/** A typed amount as a plan; nothing typed is no price, which is not the same as zero. */
function flatOf(typed: string): Plan | null {
  return typed.trim() ? { schedule: { kind: 'flat', amount: typed.trim() } } : null
}

/** One rate, edited in place: every field stores itself, and the bench moves while the price is typed. */
export function RateEditor({ rate, method, formats, siblings, focus }: Props) {
  const { setup } = useWorkshop()
  const { setPreview, preview, previewProblem } = usePreview()
  const [another, setAnother] = useState(false)
  const acts = useActs()
  const edited = useEdited('rates', rate)
  const { doc } = edited
  const index = siblings.indexOf(rate)
  const name = rate.name ?? method.name ?? ''
  const plain = isPlain(doc.plan) && !edited.at('plan')?.typed && !another
  const zone = byId(setup.zones, rate.zone)
  const typing = useCallback(
    (doc: Rate | null) => setPreview(doc && { rate: rate.id, plan: doc.plan ?? null }),
    [setPreview, rate.id],
  )
  const typed = preview && 'rate' in preview && preview.rate === rate.id
  return (
    <PlanZone.Provider value={zone}>
      <div className="mb-2 flex flex-wrap items-start gap-x-5 gap-y-3 border-l-4 border-ink bg-paper px-3 py-3">
        {plain ? (
          <div className="flex flex-col gap-1">
            <Field
              of={edited}
              at={AMOUNT}
              label="Flat price"
              inputId={`rate-${rate.id}-plan`}
              autoFocus={focus === null || focus === 'plan'}
              prefix={formats.symbol}
              width="w-24"
              inputMode="decimal"
              placeholder="not set"
              pointer="/plan"
              value={(doc) => amountOf(doc.plan?.schedule)}
              write={(amount) => ({ plan: flatOf(amount) })}
              show={(amount) => (amount ? formats.money(amount) : 'no price')}
              typing={typing}
              warning={typed ? (previewProblem?.at('/preview/plan') ?? null) : null}
              hint={doc.plan ? '' : 'Without a price it is not offered. Zero makes it free.'}
            />
            <Button look="quiet" className="justify-start px-0" onClick={() => setAnother(true)}>
              Price it by weight, value, class …
            </Button>
          </div>
        ) : (
          <PlanEditor
            key={rate.id}
            label="Price"
            inputId={`rate-${rate.id}-plan`}
            of={edited}
            field="plan"
            over={AMOUNT}
            preview={typing}
            previewAt={(below) => (typed ? previewProblem?.at(`/preview/plan${below}`) : undefined)}
          />
        )}
        <Field
          label="Name in this zone"
          inputId={`rate-${rate.id}-name`}
          autoFocus={focus === 'name'}
          width="w-56"
          placeholder={method.name ?? ''}
          of={edited}
          at="name"
          write={(text) => ({ name: text.trim() || null })}
          hint={rate.name ? '' : 'As the method is called everywhere.'}
        />
        <div className="flex flex-col gap-1">
          <span className="font-cond text-soft">In this zone</span>
          <Switch
            label={`${name} in this zone`}
            on={doc.active ?? true}
            change={(active) => edited.put('active', `${name} in this zone`, () => ({ active }))}
          />
        </div>
        <div className="w-full">
          <Fold title="Live prices from carriers" open={Boolean(rate.live) || focus === 'live'}>
            <LiveEditor rate={rate} />
          </Fold>
          <Fold title="Only in a part of the zone" open={Boolean(rate.areas?.length)}>
            {zone && <Narrowed of={edited} zone={zone} />}
          </Fold>
          <Fold title="Copy it to other zones" open={false}>
            <CopyRate rate={rate} name={name} />
          </Fold>
          <Fold title="What it costs you" open={Boolean(rate.cost)}>
            <PlanEditor label="Cost" of={edited} field="cost" />
          </Fold>
        </div>
        <div className="ml-auto flex flex-wrap gap-1">
          <Button
            look="quiet"
            disabled={index <= 0}
            onClick={() => acts.moveRate(rate.zone, rate.id, name, -1)}
          >
            <ArrowUp size={14} aria-hidden /> Move up
          </Button>
          <Button
            look="quiet"
            disabled={index === siblings.length - 1}
            onClick={() => acts.moveRate(rate.zone, rate.id, name, 1)}
          >
            <ArrowDown size={14} aria-hidden /> Move down
          </Button>
          <Button look="quiet" onClick={() => acts.remove('rates', rate, name)}>
            <Trash2 size={14} aria-hidden /> Remove
          </Button>
          <Link className="quiet underline" to={`/proofs/walk#rate=${rate.id}`}>
            Walk its edges
          </Link>
          <Link className="quiet underline" to={`/methods#method=${method.id}`}>
            The method everywhere
          </Link>
        </div>
      </div>
    </PlanZone.Provider>
  )
}
