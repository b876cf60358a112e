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
  ['free', 'free'],
  ['fixed', 'a fixed price'],
  ['off', 'an amount off'],
  ['percent', 'a percentage off'],
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
      <Question title="What does it give?">
        <EffectEditor
          effect={doc.effect ?? { kind: 'free' }}
          change={(effect) => change({ effect })}
          put={(effect) => put({ effect })}
          commit={commit}
          errorAt={errorAt}
        />
        <div className="mt-2 flex flex-wrap items-end gap-x-6 gap-y-2">
          <Typed
            label="The method is then called"
            width="w-64"
            placeholder="its own name"
            value={doc.label ?? ''}
            error={errorAt('/label')}
            change={(label) => change({ label })}
            commit={commit}
          />
          {doc.label && (doc.effect?.kind === 'free' || doc.effect?.kind === 'fixed') && (
            <Typed
              label={
                doc.effect.kind === 'free'
                  ? 'and where something is left to pay'
                  : 'and where more than that is left to pay'
              }
              width="w-64"
              placeholder="its own name"
              value={doc.label_more ?? ''}
              error={errorAt('/label_more')}
              change={(name) => change({ label_more: name })}
              commit={commit}
            />
          )}
          <div className="flex flex-col gap-1 pb-1">
            {check('own_prices', 'Own prices and fees of treated goods fall under it too')}
            {check('hides_paid', 'Hide methods that still cost money when it makes one free')}
            {check('combines', 'Goes together with other offers that do')}
          </div>
        </div>
      </Question>
      <Question title="From how much on?">
        <ThresholdEditor
          threshold={doc.threshold ?? null}
          change={(threshold) => change({ threshold })}
          put={(threshold) => put({ threshold })}
          commit={commit}
          errorAt={errorAt}
        />
      </Question>
      <Question title="Where, and for which methods?">
        <Where of={doc} put={put} errorAt={errorAt} />
      </Question>
      <Fold
        title={
          <Folded
            question="For whom, and when?"
            said={whomWords(doc, setup).join(', ')}
            none="everybody, at any time"
          />
        }
        open={WHOM.some(errorAt)}
      >
        <Whom doc={doc} put={put} change={change} commit={commit} errorAt={errorAt} />
      </Fold>
      <Fold
        title={
          <Folded
            question="Which goods keep out of it?"
            said={keptOutWords(doc, setup).join(', ')}
            none="none"
          />
        }
        open={KEPT_OUT.some(errorAt)}
      >
        <p className="font-cond text-soft">One of these in the cart blocks it for the whole cart</p>
        <GoodsChoiceEditor
          label="Blocks"
          goods={doc.blocking}
          put={(blocking) => put({ blocking })}
          error={errorAt('/blocking')}
        />
        <p className="mt-2 font-cond text-soft">
          These pay their own way: they cost what they would alone, and the offer falls on the rest
        </p>
        <GoodsChoiceEditor
          label="Pays its own way"
          goods={doc.paying}
          put={(paying) => put({ paying })}
          error={errorAt('/paying')}
        />
        {doc.paying && check('paying_count', 'They count towards the threshold')}
      </Fold>
      <Fold title="What it leaves you, on the bench cart" open={false}>
        <MarginsTable offer={doc} />
      </Fold>
      <Fold title="Milepost: what shoppers read" open={doc.milepost != null}>
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
      <Radios label="What it gives" value={effect.kind} choose={choose} choices={EFFECTS} />
      {(effect.kind === 'fixed' || effect.kind === 'off') && (
        <Typed
          label={effect.kind === 'fixed' ? `It costs, ${symbol}` : `Off, ${symbol}`}
          inputMode="decimal"
          value={effect.amount}
          error={errorAt('/effect/amount')}
          change={(amount) => change({ ...effect, amount })}
          commit={commit}
        />
      )}
      {effect.kind === 'percent' && (
        <Typed
          label="Off, %"
          inputMode="decimal"
          value={effect.percent}
          error={errorAt('/effect/percent')}
          change={(percent) => change({ ...effect, percent })}
          commit={commit}
        />
      )}
      <Typed
        label={`At the most, ${symbol}`}
        placeholder="no limit"
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
              ['all', 'everybody'],
              ['only', 'only these'],
              ['except', 'all but these'],
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
          all="needs none"
          these="needs one of these"
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
            ['any', 'do not matter'],
            ['without', 'there may be none'],
            ['with', 'there must be one'],
          ]}
          choose={(way) => put({ promotions: way === 'any' ? null : way })}
        />
      </fieldset>
      <span className="flex flex-wrap items-start gap-4">
        {moment('starts', `Starts, ${setup.store.time_zone}`)}
        {moment('ends', 'Ends just before')}
        <Typed
          label="For the first so many orders"
          placeholder="all"
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
