import type { Offer, Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { EditorFrame } from '../policies/editor-frame'
import { useDraft } from '../policies/use-draft'
import { Many, Question, Some } from '../ui/choose'
import { FieldError } from '../ui/field-error'
import { Radios } from '../ui/radios'
import { formatsOf } from '../ui/format'
import { Fold, Folded } from '../ui/fold'
import { Typed } from '../ui/typed'
import { GoodsChoiceEditor } from './goods-choice'
import { MarginsTable } from './margins'
import { MilepostEditor } from './milepost-editor'
import { ThresholdEditor } from './threshold-editor'
import { keptOutWords, offerSentence, whomWords } from '../words/offers'
import { Where } from '../forms/where'
import { Tick } from '../ui/tick'

type Effect = Schemas['Effect']

const EFFECTS: [Effect['kind'], string][] = [
  ['free', 'Free'],
  ['fixed', 'Fixed price'],
  ['off', 'Amount off'],
  ['percent', 'Percentage off'],
]

const previewOf = (offer: Schemas['OfferPreview']) => ({ offer })

/** One offer, edited in place: what it gives, to whom, from when on, and which goods keep out of it. */
export function OfferEditor({
  offer,
  close,
  opened,
}: {
  offer: Offer
  close: () => void
  opened: (id: string) => void
}) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const draft = useDraft('offers', offer, previewOf)
  const { doc, change, commit, put, errorAt } = draft
  const check = (field: 'own_prices' | 'hides_paid' | 'combines' | 'paying_count', label: string) => (
    <Tick on={doc[field] ?? false} change={(on) => put({ [field]: on })}>
      {label}
    </Tick>
  )
  return (
    <EditorFrame
      kind="offers"
      item={offer}
      draft={draft}
      close={close}
      opened={opened}
      sentence={(shown) => offerSentence(shown, setup, formats)}
    >
      <Question title="Reward">
        <EffectEditor
          effect={doc.effect ?? { kind: 'free' }}
          change={(effect) => change({ effect })}
          put={(effect) => put({ effect })}
          commit={commit}
          errorAt={errorAt}
        />
        <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
          <Typed
            label="Method name with this offer"
            width="w-64"
            placeholder="Its usual name"
            value={doc.label ?? ''}
            error={errorAt('/label')}
            change={(label) => change({ label })}
            commit={commit}
          />
          {doc.label && (doc.effect?.kind === 'free' || doc.effect?.kind === 'fixed') && (
            <Typed
              label={
                doc.effect.kind === 'free'
                  ? 'Method name if something is left to pay'
                  : 'Method name if more is left to pay'
              }
              width="w-64"
              placeholder="Its usual name"
              value={doc.label_more ?? ''}
              error={errorAt('/label_more')}
              change={(name) => change({ label_more: name })}
              commit={commit}
            />
          )}
          <div className="flex flex-col gap-1 pb-1">
            {check('own_prices', 'Also covers goods with their own prices and fees')}
            {check('hides_paid', 'Hide paid methods when this makes one free')}
            {check('combines', 'Adds up with other offers')}
          </div>
        </div>
      </Question>
      <Question title="Qualifying carts">
        <ThresholdEditor
          threshold={doc.threshold ?? null}
          change={(threshold) => change({ threshold })}
          put={(threshold) => put({ threshold })}
          commit={commit}
          errorAt={errorAt}
        />
      </Question>
      <Question title="Zones and methods">
        <Where of={doc} put={put} errorAt={errorAt} />
      </Question>
      <Fold
        title={
          <Folded
            question="Customers and dates"
            said={whomWords(doc, setup).join(', ')}
            none="everyone, at any time"
          />
        }
        open={WHOM.some(errorAt)}
      >
        <Whom doc={doc} put={put} change={change} commit={commit} errorAt={errorAt} />
      </Fold>
      <Fold
        title={<Folded question="Excluded goods" said={keptOutWords(doc, setup).join(', ')} none="none" />}
        open={KEPT_OUT.some(errorAt)}
      >
        <p className="font-cond text-soft">With any of these in the cart, the offer does not apply</p>
        <GoodsChoiceEditor
          label="Blocks"
          goods={doc.blocking}
          put={(blocking) => put({ blocking })}
          error={errorAt('/blocking')}
        />
        <p className="mt-2 font-cond text-soft">
          These pay their own way: you charge for them as if they were sent alone, and the offer applies to
          the rest
        </p>
        <GoodsChoiceEditor
          label="Pays its own way"
          goods={doc.paying}
          put={(paying) => put({ paying })}
          error={errorAt('/paying')}
        />
        {doc.paying && check('paying_count', 'Count them towards the minimum')}
      </Fold>
      <Fold title="Your margin on the bench cart" open={false}>
        <MarginsTable offer={doc} />
      </Fold>
      <Fold title="Milepost: message to shoppers" open={doc.milepost != null}>
        <MilepostEditor
          offer={doc}
          change={(milepost) => change({ milepost })}
          put={(milepost) => put({ milepost })}
          commit={commit}
          errorAt={errorAt}
        />
      </Fold>
    </EditorFrame>
  )
}

const WHOM = ['/groups', '/coupons', '/promotions', '/first', '/starts', '/ends']
const KEPT_OUT = ['/blocking', '/paying']

interface Editing<Value> {
  change: (value: Value) => void
  put: (value: Value) => void
  commit: () => void
  errorAt: (pointer: string) => string | undefined
}

function EffectEditor({ effect, change, put, commit, errorAt }: { effect: Effect } & Editing<Effect>) {
  const { setup } = useWorkshop()
  const { symbol } = formatsOf(setup.store)
  const choose = (kind: Effect['kind']) => {
    const most = effect.most ? { most: effect.most } : {}
    if (kind === 'free') put({ kind, ...most })
    else if (kind === 'percent') change({ kind, percent: '', ...most })
    else change({ kind, amount: 'amount' in effect ? effect.amount : '', ...most })
  }
  return (
    <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
      <Radios label="Reward" value={effect.kind} choose={choose} choices={EFFECTS} />
      {(effect.kind === 'fixed' || effect.kind === 'off') && (
        <Typed
          label={effect.kind === 'fixed' ? `Price (${symbol})` : `Amount off (${symbol})`}
          inputMode="decimal"
          value={effect.amount}
          error={errorAt('/effect/amount')}
          change={(amount) => change({ ...effect, amount })}
          commit={commit}
        />
      )}
      {effect.kind === 'percent' && (
        <Typed
          label="Percentage off (%)"
          inputMode="decimal"
          value={effect.percent}
          error={errorAt('/effect/percent')}
          change={(percent) => change({ ...effect, percent })}
          commit={commit}
        />
      )}
      <Typed
        label={`Up to (${symbol})`}
        placeholder="No limit"
        inputMode="decimal"
        value={effect.most ?? ''}
        error={errorAt('/effect/most')}
        change={(most) => {
          const { most: _, ...rest } = effect
          change(most ? { ...rest, most } : rest)
        }}
        commit={commit}
      />
    </div>
  )
}

function Whom({ doc, put, change, commit, errorAt }: { doc: Offer } & Editing<Partial<Partial<Offer>>>) {
  const { setup } = useWorkshop()
  const groups = doc.groups
  const kind = groups?.only ? 'only' : groups?.except ? 'except' : 'all'
  const moment = (field: 'starts' | 'ends', label: string) => (
    <Typed
      label={label}
      type="datetime-local"
      width="w-52"
      value={doc[field] ?? ''}
      error={errorAt(`/${field}`)}
      change={(text) => change({ [field]: text || null })}
      commit={commit}
    />
  )
  return (
    <div className="flex flex-col gap-2">
      {setup.groups.length > 0 && (
        <fieldset>
          <legend className="font-cond text-soft">Customer groups</legend>
          <Radios
            label="Customer groups"
            value={kind}
            choices={[
              ['all', 'Everyone'],
              ['only', 'Only these'],
              ['except', 'Everyone but these'],
            ]}
            choose={(way) => {
              if (way === 'all') return put({ groups: null })
              const ids = groups?.only ?? groups?.except ?? []
              if (ids.length) put({ groups: { [way]: ids } })
              else change({ groups: { [way]: [] } })
            }}
          />
          {kind !== 'all' && (
            <Many
              list={setup.groups}
              chosen={groups?.[kind] ?? []}
              label="Customer groups"
              put={(ids) => put({ groups: ids.length ? { [kind]: ids } : null })}
            />
          )}
          {errorAt('/groups') && <FieldError>{errorAt('/groups')}</FieldError>}
        </fieldset>
      )}
      {setup.coupons.length > 0 && (
        <Some
          label="Coupons"
          all="Not needed"
          these="One of these is needed"
          list={setup.coupons.map(({ id, code }) => ({ id, name: code ?? '' }))}
          chosen={doc.coupons ?? null}
          put={(coupons) => put({ coupons })}
          error={errorAt('/coupons')}
        />
      )}
      <fieldset>
        <legend className="font-cond text-soft">Other promotions in the cart</legend>
        <Radios
          label="Other promotions in the cart"
          value={doc.promotions ?? 'any'}
          choices={[
            ['any', 'Allowed'],
            ['without', 'Not allowed'],
            ['with', 'Required'],
          ]}
          choose={(way) => put({ promotions: way === 'any' ? null : way })}
        />
      </fieldset>
      <span className="flex flex-wrap items-start gap-4">
        {moment('starts', `Starts (${setup.store.time_zone})`)}
        {moment('ends', 'Ends before')}
        <Typed
          label="Number of orders"
          placeholder="No limit"
          inputMode="decimal"
          value={doc.first == null ? '' : String(doc.first)}
          error={errorAt('/first')}
          change={(text) => change({ first: /^\d+$/.test(text) ? Number(text) : text ? 0 : null })}
          commit={commit}
        />
      </span>
    </div>
  )
}
