import { Status } from '../ui/alerts'
import { useQuery } from '@tanstack/react-query'
import { X } from 'lucide-react'
import { useState } from 'react'
import { ApiProblem, answerOf, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { foreseeing, useAct } from '../edits/use-act'
import { FieldError } from '../ui/field-error'
import { counted } from '../ui/locale'
import { Changes } from './changes'
import { Select } from '../ui/select'
import { Button } from '../ui/button'
import { Input } from '../ui/input'

type Set = Schemas['GoodsBulk']['set']
const CLEAR = ' '
const MEASURES = ['weight', 'length', 'width', 'height'] as const
const BLANK = {
  weight: '',
  length: '',
  width: '',
  height: '',
  class: '',
  tax_class: '',
  hazardous: '',
  ships: '',
  tags_add: '',
  tags_remove: '',
  treatment_add: '',
  treatment_remove: '',
}

/** What is typed as the contract's `set`: an empty field leaves things alone. */
function setOf(draft: typeof BLANK): Set {
  const set: Record<string, unknown> = {}
  for (const field of MEASURES) if (draft[field].trim()) set[field] = draft[field].trim()
  for (const field of ['class', 'tax_class'] as const)
    if (draft[field]) set[field] = draft[field] === CLEAR ? null : draft[field]
  for (const field of ['hazardous', 'ships'] as const) if (draft[field]) set[field] = draft[field] === 'yes'
  for (const field of ['tags_add', 'tags_remove'] as const) {
    const tags = draft[field].split(/[;,]/).map((tag) => tag.trim())
    if (tags.some(Boolean)) set[field] = tags.filter(Boolean)
  }
  if (draft.treatment_add) set.treatment_add = draft.treatment_add
  if (draft.treatment_remove) set.treatment_remove = draft.treatment_remove
  return set
}

interface Props {
  scope: Schemas['GoodsScope']
  count: number
  close: () => void
}

/** One change for everything that is chosen: first what it would do, then it, as one step of the history. */
export function BulkEdit({ scope, count, close }: Props) {
  const { setup } = useWorkshop()
  const act = useAct('/api/products/bulk', 'store', `Change ${counted(count, 'row')} together`)
  const [draft, setDraft] = useState(BLANK)
  const [sure, setSure] = useState(false)
  const set = setOf(draft)
  const empty = Object.keys(set).length === 0
  const body = { scope, set, sure }
  const { data: plan, error } = useQuery({
    queryKey: ['products', 'bulk', setup.revision, body],
    queryFn: ({ signal }) =>
      answerOf(foreseeing.POST('/api/products/bulk', { body: { ...body, store: false }, signal })),
    enabled: !empty,
    retry: false,
  })
  const problem = error instanceof ApiProblem ? error : null
  const store = () =>
    act.run(
      (to) => to.POST('/api/products/bulk', { body: { ...body, store: true } }),
      close,
      (done) => `Changed ${counted(done.changed, 'product')}`,
    )
  const text = (field: keyof typeof BLANK, label: string, width: string, hint = 'as it is') => {
    const wrong = problem?.at(`/set/${field}`)
    const suggestion = problem?.suggestionAt(`/set/${field}`)
    return (
      <span className="flex max-w-72 flex-col gap-1">
        <label className="flex flex-col font-cond text-soft">
          {label}
          <Input
            className={`font-sans ${width}`}
            placeholder={hint}
            value={draft[field]}
            aria-invalid={wrong ? true : undefined}
            onChange={(event) => {
              setSure(false)
              setDraft({ ...draft, [field]: event.target.value })
            }}
          />
        </label>
        {wrong && <FieldError>{wrong}</FieldError>}
        {suggestion && (
          <span className="flex gap-1">
            <Button onClick={() => setDraft({ ...draft, [field]: suggestion })}>No, {suggestion}</Button>
            <Button onClick={() => setSure(true)}>Yes, it does</Button>
          </span>
        )}
      </span>
    )
  }
  const choice = (field: keyof typeof BLANK, label: string, options: [string, string][]) => (
    <label className="flex flex-col font-cond text-soft">
      {label}
      <Select
        label={label}
        className="max-w-44"
        value={draft[field]}
        choices={[['', 'as it is'], ...options]}
        choose={(value) => setDraft({ ...draft, [field]: value })}
      />
    </label>
  )
  const named = (list: { id?: string; name?: string }[]) =>
    list.map(({ id, name }): [string, string] => [id!, name!])
  return (
    <section
      aria-label="Edit the chosen goods together"
      className="mb-2 max-h-[55%] overflow-y-auto border-l-4 border-ink bg-white px-3 py-2"
    >
      <header className="flex items-baseline justify-between">
        <h2 className="text-lg">{counted(count, 'row')} together</h2>
        <Button look="quiet" onClick={close}>
          <X size={13} aria-hidden /> Choose none
        </Button>
      </header>
      <div className="mt-1 flex flex-wrap items-start gap-x-3 gap-y-2">
        {text('weight', 'Weight', 'w-24')}
        {text('length', 'Length', 'w-20')}
        {text('width', 'Width', 'w-20')}
        {text('height', 'Height', 'w-20')}
        {choice('class', 'Class', [[CLEAR, 'no class'], ...named(setup.classes)])}
        {choice('tax_class', 'Tax class', [[CLEAR, 'the first one'], ...named(setup.tax_classes)])}
        {choice('hazardous', 'Hazard mark', [
          ['yes', 'yes'],
          ['no', 'no'],
        ])}
        {choice('ships', 'Needs shipping', [
          ['yes', 'yes'],
          ['no', 'no'],
        ])}
        {text('tags_add', 'Add tags', 'w-32', 'none')}
        {text('tags_remove', 'Take away tags', 'w-32', 'none')}
        {choice('treatment_add', 'Put a treatment on', named(setup.treatments))}
        {choice('treatment_remove', 'Take a treatment off', named(setup.treatments))}
      </div>
      {!empty && !problem && plan && (
        <div className="mt-2 border-t border-hair pt-2">
          <Status>
            Of {counted(plan.found, 'row')}, <b>{plan.changed}</b> would change
            {plan.faults.length > 0 && (
              <>
                , <b>{plan.faults.length}</b> can’t
              </>
            )}
            {plan.inheriting > 0 &&
              `; ${counted(plan.inheriting, 'variant')} have some of it from their product`}
            .
          </Status>
          {plan.faults.slice(0, 3).map((fault) => (
            <FieldError key={fault.sku}>
              {fault.sku}: {fault.detail}
            </FieldError>
          ))}
          <Changes samples={plan.samples} />
          <Button
            className="mt-2 border-ink font-semibold"
            disabled={plan.changed === 0 || act.busy}
            onClick={store}
          >
            Change {counted(plan.changed, 'product')}
          </Button>
          {act.message && <FieldError>{act.message}</FieldError>}
        </div>
      )}
    </section>
  )
}
