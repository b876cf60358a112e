import { byId } from '../api/by-id'
import { theirsOf } from '../edits/edits'
import { keysOf } from '../api/shapes'
import { useQuery } from '@tanstack/react-query'
import { Plus, X } from 'lucide-react'
import { useCallback, type KeyboardEvent } from 'react'
import { ApiProblem, api, answerOf, type Rate, type Treatment } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { EditorButtons } from '../ui/editor-buttons'
import { Conflict } from '../ui/conflict'
import { useBenchResult, usePreview } from '../cart/result'
import { useActs } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { useWhole } from '../edits/whole'
import { named } from '../words/history'
import { Field } from '../forms/field'
import { FieldError } from '../ui/field-error'
import { formatsOf } from '../ui/format'
import { Many, Question, Some } from '../ui/choose'
import { Switch } from '../ui/switch'
import { ChargeEditor } from './charge-editor'
import { BLANK_CHARGE, draftPrice, previewOf, priceOf, type DraftCharge, type DraftPrice } from './draft'
import { Targets } from './targets'
import { Fold, Folded } from '../ui/fold'
import { limitsSentence, treatmentSentence } from '../words/goods'
import { Where } from '../forms/where'
import { Select } from '../ui/select'
import { Radios } from '../ui/radios'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

interface Props {
  treatment: Treatment
  /** "price" or "travel", where a reckoning led here. */
  focus: string | null
  close: () => void
}

/** One treatment, edited in place: what its goods pay, and how they may travel, as two separate questions. */
export function TreatmentEditor({ treatment, focus, close }: Props) {
  const { setup } = useWorkshop()
  const { setPreview, previewProblem, preview } = usePreview()
  const acts = useActs()
  const formats = formatsOf(setup.store)
  const edited = useEdited('treatments', treatment)
  const { doc } = edited
  const showing = useCallback(
    (shown: Treatment | null) => setPreview(shown && { treatment: previewOf(shown) }),
    [setPreview],
  )
  const pays = useWhole<Treatment, DraftPrice>(edited, 'price', `${treatment.name}: what it pays`, {
    read: (there) => draftPrice(there.price),
    write: (typed) => ({ price: priceOf(typed) }),
    preview: showing,
  })
  const price = pays.shown
  const { change, commit } = pays
  const put = (fields: Partial<Treatment>) => {
    const names = keysOf(fields)
    edited.put(names.join(' '), `${treatment.name}: ${named(names.join(','))}`, () => fields)
  }
  const clashing = edited.edits.filter((edit) => edit.current)
  const current = theirsOf<Treatment>(clashing[0])
  const problem = edited.edits.find((edit) => edit.problem && !edit.current)?.problem
  const previewing = preview && 'treatment' in preview && preview.treatment.id === treatment.id
  const errorAt = (pointer: string) =>
    edited.problemAt(pointer) ?? (previewing ? previewProblem?.at(`/preview/treatment${pointer}`) : undefined)

  return (
    <div className="mb-2 flex flex-col gap-3 bg-paper px-3 py-3">
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        <Field of={edited} at="name" label="Internal name" width="w-64" />
        <div className="flex flex-col gap-1">
          <span className="font-cond text-soft">It is</span>
          <Switch
            label={`${treatment.name} on`}
            on={doc.active ?? true}
            change={(active) => put({ active })}
          />
        </div>
        <span className="ml-auto flex gap-1 pt-5">
          <EditorButtons
            remove={() => {
              close()
              acts.remove('treatments', treatment, treatment.name ?? '')
            }}
            close={close}
            closing="Close the treatment"
          />
        </span>
      </div>
      <Question title="Applies to">
        <Targets treatment={treatment} />
      </Question>
      <Question title="Price" focused={focus === 'price'}>
        <Pays treatment={doc} price={price} change={change} commit={commit} errorAt={errorAt} />
      </Question>
      <Question title="Allowed methods" focused={focus === 'travel'}>
        <Travel treatment={doc} put={put} errorAt={errorAt} />
      </Question>
      <Fold
        title={
          <Folded
            question="Where it applies"
            said={limitsSentence(doc, setup)}
            none="everywhere, with every method"
          />
        }
        open={['/zones', '/methods'].some(errorAt)}
      >
        <Where of={doc} put={put} errorAt={errorAt} />
      </Fold>
      {current && (
        <Conflict
          mine={() => clashing.forEach(({ key }) => edited.again(key))}
          theirs={() => clashing.forEach(({ key }) => edited.drop(key))}
        >
          <p>
            Changed elsewhere meanwhile. There now: {treatmentSentence(current, formats, setup)}. What you
            typed is still here.
          </p>
        </Conflict>
      )}
      {problem && !(problem instanceof ApiProblem && problem.problem.errors.length) && (
        <FieldError>{problem.message}</FieldError>
      )}
      <p className="border-t border-hair pt-2">
        <span className="font-cond text-soft">Read back: </span>
        {treatmentSentence(doc, formats, setup)}
      </p>
    </div>
  )
}

/** What its goods pay: nothing that is said here, something on top, or a price of their own. */
function Pays({
  treatment,
  price,
  change,
  commit,
  errorAt,
}: {
  treatment: Treatment
  price: DraftPrice
  change: (update: (old: DraftPrice) => DraftPrice) => void
  commit: () => void
  errorAt: (pointer: string) => string | undefined
}) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const choose = (update: (old: DraftPrice) => DraftPrice) => {
    change(update)
    commit()
  }
  const { comparison, rates } = useComparison(treatment, price)
  const charge = (
    label: string,
    own: DraftCharge,
    pointer: string,
    set: (old: DraftPrice, next: DraftCharge) => DraftPrice,
    rates: Rate[],
  ) => (
    <ChargeEditor
      label={label}
      charge={own}
      change={(next) => change((old) => set(old, next))}
      commit={(next) => (next ? choose((old) => set(old, next)) : commit())}
      errorAt={(below) => errorAt(`${pointer}${below}`)}
      comparison={comparison}
      rates={rates.map(({ id }) => id)}
    />
  )
  const priced = new Set(price.byMethod.map(({ method }) => method))
  const pay = (kind: DraftPrice['kind']) => {
    change((old) => ({ ...old, kind }))
    if (kind !== 'apart' || price.charge.amount !== '' || price.charge.kind !== 'unit') commit()
  }
  const freeMethods = setup.methods.filter(({ id }) => !price.byMethod.some(({ method }) => method === id))
  return (
    <Radios
      stacked
      label="What it pays"
      value={price.kind}
      choose={pay}
      choices={[
        [
          'none',
          'Nothing is said here: the next treatment that reaches it decides, or it goes with the cart',
        ],
        [
          'along',
          'With the rest of the cart, by the ordinary rates',
          <label key="plus" className="flex flex-wrap items-center gap-2">
            and on top, for each, {formats.symbol}
            <Input
              className="w-24"
              aria-label="On top for each"
              aria-invalid={errorAt('/price/plus') ? true : undefined}
              inputMode="decimal"
              placeholder="nothing"
              value={price.plus}
              onChange={(event) => {
                const plus = event.target.value
                change((old) => ({ ...old, plus }))
              }}
              onBlur={() => commit()}
              onKeyDown={(event: KeyboardEvent) => event.key === 'Enter' && commit()}
            />
            {errorAt('/price/plus') && <FieldError>{errorAt('/price/plus')}</FieldError>}
          </label>,
        ],
        [
          'apart',
          'Apart from the cart, a price of its own: it then counts in no ordinary rate and no parcel',
          <div key="own" className="flex flex-col gap-2">
            {charge(
              'Own price',
              price.charge,
              '/price/charge',
              (old, next) => ({ ...old, charge: next }),
              rates.filter(({ method }) => !priced.has(method)),
            )}
            <Tick
              on={price.together}
              change={(on) => {
                const together = on
                choose((old) => ({ ...old, together }))
              }}
            >
              All its goods count together, not only those of one product
            </Tick>
            {price.byMethod.map(({ method, charge: own }, at) => {
              const name = byId(setup.methods, method)?.name ?? 'a method that is gone'
              return (
                <div key={method} className="border-l-2 border-edge pl-3">
                  <p className="flex items-center gap-2 font-medium">
                    Another price with {name}
                    <Button
                      look="quiet"
                      className="px-1"
                      aria-label={`No other price with ${name}`}
                      onClick={() =>
                        choose((old) => ({
                          ...old,
                          byMethod: old.byMethod.filter((other) => other.method !== method),
                        }))
                      }
                    >
                      <X size={13} aria-hidden />
                    </Button>
                  </p>
                  {charge(
                    name,
                    own,
                    `/price/by_method/${at}/charge`,
                    (old, next) => ({
                      ...old,
                      byMethod: old.byMethod.map((other) =>
                        other.method === method ? { method, charge: next } : other,
                      ),
                    }),
                    rates.filter((rate) => rate.method === method),
                  )}
                </div>
              )
            })}
            {freeMethods.length > 0 && (
              <label className="flex items-center gap-2">
                <Plus size={13} aria-hidden className="text-soft" />
                <Select
                  label="Another price with a method"
                  placeholder={'Another price with …'}
                  value={''}
                  choices={freeMethods.map(({ id, name }) => [id, name] as const)}
                  choose={(value) => {
                    const method = value
                    change((old) => ({
                      ...old,
                      byMethod: [...old.byMethod, { method, charge: BLANK_CHARGE }],
                    }))
                  }}
                />
              </label>
            )}
          </div>,
        ],
      ]}
    />
  )
}

/** What the ordinary rates take where the bench cart goes, for the quantities of the steps. */
function useComparison(treatment: Treatment, price: DraftPrice) {
  const { setup } = useWorkshop()
  const { bench } = useBenchResult()
  const landed = bench?.quote.landing?.zone
  const zone =
    landed && (treatment.zones?.includes(landed) ?? true)
      ? landed
      : (treatment.zones?.[0] ?? setup.zones[0]?.id)
  const charges = [price.charge, ...price.byMethod.map(({ charge }) => charge)]
  const from = charges.flatMap(({ kind, steps }) =>
    kind === 'unit' ? ['1'] : steps.map((step) => step.from),
  )
  const quantities = [...new Set(from.filter((text) => /^\d{1,7}$/.test(text)).map(Number))]
    .filter((quantity) => quantity >= 1 && quantity <= 1_000_000)
    .slice(0, 100)
  const body = { zone: zone ?? '', treatment: treatment.id, quantities }
  const { data } = useQuery({
    queryKey: ['comparison', setup.revision, body],
    queryFn: ({ signal }) => answerOf(api.POST('/api/comparison', { body, signal })),
    enabled: price.kind === 'apart' && Boolean(zone) && quantities.length > 0,
    placeholderData: (previous) => previous,
  })
  const rates = setup.rates.filter(
    (rate) => rate.zone === zone && rate.active && (treatment.methods?.includes(rate.method) ?? true),
  )
  return { comparison: data, rates }
}

function Travel({
  treatment,
  put,
  errorAt,
}: {
  treatment: Treatment
  put: (fields: Partial<Treatment>) => void
  errorAt: (pointer: string) => string | undefined
}) {
  const { setup } = useWorkshop()
  const travel = treatment.travel ?? {}
  const send = (only: string[] | undefined, never: string[]) =>
    put({
      travel:
        only === undefined && never.length === 0
          ? null
          : { ...(only ? { only } : {}), ...(never.length ? { never } : {}) },
    })
  const never = travel.never ?? []
  return (
    <div className="flex flex-wrap gap-x-8 gap-y-2">
      <Some
        label="Only by"
        all="By any method"
        these="Only by these"
        empty
        list={setup.methods}
        chosen={travel.only ?? null}
        put={(only) => send(only ?? undefined, never)}
        error={errorAt('/travel/only')}
      />
      <fieldset>
        <legend className="font-cond text-soft">Never by</legend>
        <Many list={setup.methods} chosen={never} label="Never by" put={(next) => send(travel.only, next)} />
        {errorAt('/travel/never') && <FieldError>{errorAt('/travel/never')}</FieldError>}
      </fieldset>
    </div>
  )
}
