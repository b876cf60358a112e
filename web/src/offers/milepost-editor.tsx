import { Status } from '../ui/alerts'
import { useRef } from 'react'
import type { Milepost, Offer } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useBenchResult } from '../cart/result'
import { Some } from '../ui/choose'
import { FieldError } from '../ui/field-error'
import { formatsOf } from '../ui/format'
import { Switch } from '../ui/switch'
import { Typed } from '../ui/typed'
import { Texts } from './goods-choice'
import {
  filled,
  MOMENT_NAMES,
  MOMENTS,
  placeholderValues,
  STANDARD_TEXTS,
  type Moment,
} from '../words/offers'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'

interface Props {
  offer: Offer
  change: (milepost: Milepost | null) => void
  put: (milepost: Milepost | null) => void
  commit: () => void
  errorAt: (pointer: string) => string | undefined
}

const PLACEHOLDERS = ['remaining', 'threshold', 'zone', 'method']

/** What an offer says to shoppers, with what the bench cart's shopper reads now. */
export function MilepostEditor({ offer, change, put, commit, errorAt }: Props) {
  const { setup } = useWorkshop()
  const last = useRef<{ moment: Moment; at: number } | null>(null)
  const formats = formatsOf(setup.store)
  const milepost = offer.milepost
  if (!milepost)
    return (
      <p>
        No message yet.{' '}
        <Button onClick={() => put({ active: true, texts: { ...STANDARD_TEXTS } })}>Write a message</Button>
      </p>
    )
  const set = (fields: Partial<Milepost>) => change({ ...milepost, ...fields })
  const texts = milepost.texts ?? {}
  const setText = (moment: Moment, text: string) => {
    const { [moment]: _, ...rest } = texts
    set({ texts: text ? { ...rest, [moment]: text } : rest })
  }
  const insert = (name: string) => {
    const place = last.current ?? { moment: 'away' as const, at: (texts.away ?? '').length }
    const text = texts[place.moment] ?? ''
    setText(place.moment, `${text.slice(0, place.at)}{${name}}${text.slice(place.at)}`)
    last.current = { ...place, at: place.at + name.length + 2 }
  }
  const within = (items: { id?: string; name?: string }[], ids: string[] | null | undefined) =>
    ids ? items.filter(({ id }) => ids.includes(id ?? '')) : items
  const groups = setup.groups.filter(
    ({ id }) =>
      (!offer.groups?.only || offer.groups.only.includes(id)) && !offer.groups?.except?.includes(id),
  )
  const narrow = (field: 'zones' | 'groups', ids: string[] | null) => {
    const { [field]: _, ...rest } = milepost
    put(ids ? { ...rest, [field]: ids } : rest)
  }
  return (
    <div className="flex flex-col gap-3">
      <Preview offer={offer} />
      <div className="flex items-center gap-4">
        <Switch
          label="Milepost on"
          on={milepost.active ?? true}
          change={(active) => put({ ...milepost, active })}
        />
        <Button look="quiet" onClick={() => put(null)}>
          Remove the milepost
        </Button>
      </div>
      <div className="flex flex-col gap-1.5">
        <p className="flex flex-wrap items-center gap-1.5">
          <span className="font-cond text-soft">Insert where you last typed:</span>
          {PLACEHOLDERS.map((name) => (
            <Button key={name} onClick={() => insert(name)}>
              {`{${name}}`}
            </Button>
          ))}
        </p>
        {MOMENTS.map((moment) => (
          <span
            key={moment}
            onKeyUp={(event) => remember(event.target, moment)}
            onClick={(event) => remember(event.target, moment)}
          >
            <Typed
              label={MOMENT_NAMES[moment]}
              width="w-[34rem] max-w-full"
              placeholder="No message"
              value={texts[moment] ?? ''}
              error={errorAt(`/milepost/texts/${moment}`)}
              change={(text) => setText(moment, text)}
              commit={commit}
            />
          </span>
        ))}
        {offer.threshold && (
          <Typed
            label={`“Nearly there” shows within${offer.threshold.measure === 'value' ? ` (${formats.symbol})` : ''}`}
            inputMode="decimal"
            placeholder="Never"
            value={milepost.near ?? ''}
            error={errorAt('/milepost/near')}
            change={(near) => {
              const { near: _, ...rest } = milepost
              change(near ? { ...rest, near } : rest)
            }}
            commit={commit}
          />
        )}
      </div>
      <div className="flex flex-wrap items-start gap-x-6 gap-y-2">
        <span className="flex flex-col gap-1">
          <span className="font-cond text-soft">Page types (empty: all)</span>
          <Texts
            key={(milepost.pages ?? []).join()}
            label="Page types"
            placeholder="cart, product, checkout"
            texts={milepost.pages ?? []}
            put={(pages) => put({ ...milepost, pages })}
            error={errorAt('/milepost/pages')}
          />
        </span>
        <Typed
          label="Link"
          width="w-64"
          placeholder="/delivery"
          value={milepost.link ?? ''}
          error={errorAt('/milepost/link')}
          change={(link) => {
            const { link: _, ...rest } = milepost
            change(link ? { ...rest, link } : rest)
          }}
          commit={commit}
        />
        <Tick
          className="min-h-8 self-end"
          on={milepost.closable ?? false}
          change={(on) => put({ ...milepost, closable: on })}
        >
          Shoppers can close it
        </Tick>
      </div>
      <div className="flex flex-wrap gap-x-8 gap-y-2">
        <Some
          label="Shown in"
          all="All zones of the offer"
          these="Only these"
          list={within(setup.zones, offer.zones)}
          chosen={milepost.zones ?? null}
          put={(ids) => narrow('zones', ids)}
          error={errorAt('/milepost/zones')}
        />
        {groups.length > 0 && (
          <Some
            label="Shown to"
            all="Everyone the offer is for"
            these="Only these"
            list={groups}
            chosen={milepost.groups ?? null}
            put={(ids) => narrow('groups', ids)}
            error={errorAt('/milepost/groups')}
          />
        )}
        <span className="flex flex-wrap items-start gap-3">
          {(['starts', 'ends'] as const).map((field) => (
            <Typed
              key={field}
              label={field === 'starts' ? 'Shown from' : 'Shown until'}
              type="datetime-local"
              width="w-52"
              value={milepost[field] ?? ''}
              error={errorAt(`/milepost/${field}`)}
              change={(text) => {
                const { [field]: _, ...rest } = milepost
                change(text ? { ...rest, [field]: text } : rest)
              }}
              commit={commit}
            />
          ))}
        </span>
      </div>
      {errorAt('/milepost') && !/texts|near|link|zones|groups/.test(errorAt('/milepost')!) && (
        <FieldError>{errorAt('/milepost')}</FieldError>
      )}
    </div>
  )

  function remember(target: EventTarget, moment: Moment) {
    if (target instanceof HTMLInputElement)
      last.current = { moment, at: target.selectionStart ?? target.value.length }
  }
}

/** What the bench cart's shopper reads now, and what they would at other times. */
function Preview({ offer }: { offer: Offer }) {
  const { setup } = useWorkshop()
  const { bench } = useBenchResult()
  const formats = formatsOf(setup.store)
  const outlook = bench?.quote.offers.find((one) => one.offer === offer.id)
  const texts = offer.milepost?.texts ?? {}
  const values = placeholderValues(offer, outlook, setup, bench?.quote.landing?.zone, formats)
  const now = outlook?.moment
  return (
    <section aria-label="Milepost on the bench cart" className="border border-ink bg-white">
      <Status className="px-3 py-2 text-base">
        {now ? (
          filled(texts[now] ?? '', values)
        ) : (
          <span className="text-soft">No message for the bench cart: {silence(outlook, offer)}</span>
        )}
      </Status>
      <ol className="grid grid-cols-2 gap-px border-t border-hair bg-hair md:grid-cols-4">
        {(['before', 'away', 'nearly', 'reached'] as const).map((moment) => (
          <li
            key={moment}
            aria-current={now === moment ? 'step' : undefined}
            className={`bg-white px-2 py-1 ${now === moment ? 'border-t-4 border-ink' : 'border-t-4 border-transparent'}`}
          >
            <span className="block font-cond text-soft">{MOMENT_NAMES[moment]}</span>
            {texts[moment] ? filled(texts[moment], values) : <span className="text-soft">no message</span>}
          </li>
        ))}
      </ol>
    </section>
  )
}

function silence(outlook: { state: string } | undefined, offer: Offer): string {
  if (!offer.active) return 'the offer is off.'
  if (offer.milepost?.active === false) return 'the milepost is off.'
  const because: Record<string, string> = {
    blocked: 'it holds excluded goods.',
    not_for_them: 'the offer is not for this shopper.',
    no_method: 'none of its methods is available.',
    beaten: 'another offer is better.',
    over: 'it is above the offer’s limit.',
    no_gain: 'there is nothing left to take off.',
  }
  return because[outlook?.state ?? ''] ?? 'there is no text for this moment.'
}
