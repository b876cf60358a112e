import { Plus, X } from 'lucide-react'
import type { ReactNode } from 'react'
import type { Action, Rule, Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { EditorFrame } from '../policies/editor-frame'
import { useDraft } from '../policies/use-draft'
import { Many, Question } from '../ui/choose'
import { FieldError } from '../ui/field-error'
import { formatsOf } from '../ui/format'
import { Typed } from '../ui/typed'
import { TreeEditor } from './tree-editor'
import { ruleSentence, type ActionOf } from '../words/rules'
import { Select } from '../ui/select'
import { Tick } from '../ui/tick'
import { Button } from '../ui/button'

const ACTIONS: [Action['kind'], string][] = [
  ['hide', 'hide'],
  ['only', 'offer only'],
  ['rename', 'rename'],
  ['price', 'set the price of'],
  ['add', 'add to'],
  ['off', 'take off'],
  ['floor', 'not less than, for'],
  ['cap', 'not more than, for'],
  ['message', 'a message with'],
]

const previewOf = (rule: Schemas['RulePreview']) => ({ rule })

/** One rule, edited in place: its conditions as a tree, what it does, and the sentence of both. */
export function RuleEditor({
  rule,
  close,
  opened,
}: {
  rule: Rule
  close: () => void
  opened: (id: string) => void
}) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const draft = useDraft('rules', rule, previewOf)
  const { doc, change, commit, put, errorAt } = draft
  const actions = doc.then ?? []
  const set = (at: number, action: Action) => actions.map((one, place) => (place === at ? action : one))
  return (
    <EditorFrame
      kind="rules"
      item={rule}
      draft={draft}
      close={close}
      opened={opened}
      sentence={(shown) => ruleSentence(shown, setup, formats)}
    >
      <Question title="When?">
        <TreeEditor
          tree={doc.when ?? { all: [] }}
          depth={1}
          pointer="/when"
          change={(when) => change({ when })}
          put={(when) => put({ when })}
          commit={commit}
          errorAt={errorAt}
        />
      </Question>
      <Question title="Then">
        <ol className="flex flex-col gap-2">
          {actions.map((action, at) => (
            <li key={at} className="border-l-2 border-edge pl-3">
              <ActionEditor
                action={action}
                change={(next) => change({ then: set(at, next) })}
                put={(next) => put({ then: set(at, next) })}
                commit={commit}
                errorAt={(below) => errorAt(`/then/${at}${below}`)}
                remove={
                  actions.length > 1
                    ? () => put({ then: actions.filter((_, place) => place !== at) })
                    : undefined
                }
              />
            </li>
          ))}
        </ol>
        {errorAt('/then') && actions.length === 0 && <FieldError>{errorAt('/then')}</FieldError>}
        <Button
          look="quiet"
          className="mt-1"
          onClick={() => change({ then: [...actions, { kind: 'message', text: '' }] })}
        >
          <Plus size={13} aria-hidden /> And something else
        </Button>
      </Question>
    </EditorFrame>
  )
}

/** What an action of another kind keeps of the one before. */
function asKind(action: Action, kind: Action['kind'], all: string[]): Action {
  const methods = action.methods ?? (kind === 'only' ? all.slice(0, 1) : undefined)
  const kept = methods ? { methods } : {}
  if (kind === 'hide' || kind === 'only') return { kind, ...kept }
  if (kind === 'rename' || kind === 'message')
    return { kind, ...kept, text: 'text' in action ? action.text : '' }
  return { kind, ...kept, amount: ('amount' in action ? action.amount : null) ?? '' }
}

/** Whether it says enough to be stored. */
function isWhole(action: Action): boolean {
  switch (action.kind) {
    case 'hide':
    case 'only':
      return true
    case 'rename':
    case 'message':
      return action.text !== ''
    case 'price':
    case 'floor':
    case 'cap':
      return action.amount !== ''
    case 'add':
    case 'off':
      return Boolean(action.amount ?? action.percent)
  }
}

function ActionEditor({
  action,
  change,
  put,
  commit,
  errorAt,
  remove,
}: {
  action: Action
  change: (action: Action) => void
  put: (action: Action) => void
  commit: () => void
  errorAt: (below: string) => string | undefined
  remove: (() => void) | undefined
}) {
  const { setup } = useWorkshop()
  const { symbol } = formatsOf(setup.store)
  const ids = setup.methods.map(({ id }) => id)
  const choose = (kind: Action['kind']) => {
    const next = asKind(action, kind, ids)
    if (isWhole(next)) put(next)
    else change(next)
  }
  return (
    <div className="flex flex-wrap items-start gap-x-4 gap-y-1.5">
      <Select label="What it does" value={action.kind} choices={ACTIONS} choose={(value) => choose(value)} />
      <span className="flex flex-col gap-1">
        {action.kind !== 'only' && (
          <Tick
            className="min-h-8"
            on={action.methods === undefined}
            change={(on) => {
              const { methods: _, ...rest } = action
              put(on ? rest : { ...rest, methods: ids.slice(0, 1) })
            }}
          >
            every method
          </Tick>
        )}
        {action.methods && (
          <Many
            list={setup.methods}
            chosen={action.methods}
            label="Method"
            put={(methods) => (methods.length ? put({ ...action, methods }) : change({ ...action, methods }))}
          />
        )}
        {errorAt('/methods') && <FieldError>{errorAt('/methods')}</FieldError>}
      </span>
      {'text' in action && (
        <Typed
          label={action.kind === 'rename' ? 'New name' : 'Message'}
          hideLabel
          width="w-72"
          placeholder={action.kind === 'rename' ? 'its name then' : 'what the shopper reads'}
          value={action.text}
          error={errorAt('/text')}
          change={(text) => change({ ...action, text })}
          commit={commit}
        />
      )}
      {(action.kind === 'price' || action.kind === 'floor' || action.kind === 'cap') && (
        <AmountField
          error={errorAt('/amount')}
          value={action.amount}
          change={(amount) => change({ ...action, amount })}
          commit={commit}
        >
          <span className="pt-1.5 text-soft">{symbol}</span>
        </AmountField>
      )}
      {(action.kind === 'add' || action.kind === 'off') && (
        <ByHowMuch action={action} symbol={symbol} change={change} commit={commit} errorAt={errorAt} />
      )}
      {remove && (
        <Button look="quiet" className="px-1" aria-label="Do not do this" onClick={remove}>
          <X size={13} aria-hidden />
        </Button>
      )}
    </div>
  )
}

/** By how much a price changes, in money or percent. */
function ByHowMuch({
  action,
  symbol,
  change,
  commit,
  errorAt,
}: {
  action: ActionOf<'add' | 'off'>
  symbol: string
  change: (action: Action) => void
  commit: () => void
  errorAt: (below: string) => string | undefined
}) {
  const { percent, amount, ...bare } = action
  const unit = percent === undefined ? 'amount' : 'percent'
  const value = percent ?? amount ?? ''
  return (
    <AmountField
      percent={unit === 'percent'}
      error={errorAt(`/${unit}`)}
      value={value}
      change={(text) => change({ ...bare, [unit]: text })}
      commit={commit}
    >
      <Select
        label="In money or percent"
        value={unit}
        choices={[
          ['amount', symbol],
          ['percent', '%'],
        ]}
        choose={(next) => change({ ...bare, [next]: value })}
      />
    </AmountField>
  )
}

function AmountField({
  percent = false,
  children,
  ...field
}: {
  percent?: boolean
  value: string
  error: string | undefined
  change: (text: string) => void
  commit: () => void
  children: ReactNode
}) {
  return (
    <span className="flex items-start gap-1.5">
      <Typed
        label={percent ? 'Percent' : 'Amount'}
        hideLabel
        inputMode="decimal"
        placeholder={percent ? '10' : '0.00'}
        {...field}
      />
      {children}
    </span>
  )
}
