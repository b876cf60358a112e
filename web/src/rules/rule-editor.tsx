import { Plus, X } from 'lucide-react'
import type { Action, Rule } from '../api/client'
import { useWorkshop } from '../api/setup'
import { EditorFrame } from '../policies/editor-frame'
import { useDraft } from '../policies/use-draft'
import { Many, Question } from '../ui/choose'
import { FieldError } from '../ui/field'
import { formatsOf } from '../ui/format'
import { Typed } from '../ui/typed'
import { TreeEditor } from './tree-editor'
import { ruleSentence } from './words'
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
  const formats = formatsOf(setup.store!)
  const draft = useDraft('rules', rule)
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
  if (kind === 'rename' || kind === 'message') return { kind, ...kept, text: action.text ?? '' }
  if (kind === 'hide' || kind === 'only') return { kind, ...kept }
  return { kind, ...kept, amount: action.amount ?? '' }
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
  const { symbol } = formatsOf(setup.store!)
  const ids = setup.methods.map(({ id }) => id!)
  const relative = action.kind === 'add' || action.kind === 'off'
  const inPercent = action.percent !== undefined
  const choose = (kind: Action['kind']) => {
    const next = asKind(action, kind, ids)
    if (next.kind === 'hide' || next.kind === 'only' || next.amount || next.text) put(next)
    else change(next)
  }
  const { percent: _, amount: __, ...bare } = action
  return (
    <div className="flex flex-wrap items-start gap-x-4 gap-y-1.5">
      <Select label="What it does" value={action.kind} choices={ACTIONS} choose={(value) => choose(value)} />
      <span className="flex flex-col gap-1">
        {action.kind !== 'only' && (
          <Tick
            className="min-h-8"
            on={action.methods === undefined}
            change={(on) => {
              const { methods: _m, ...rest } = action
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
      {action.text !== undefined && (
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
      {(action.amount !== undefined || inPercent) && (
        <span className="flex items-start gap-1.5">
          <Typed
            label={inPercent ? 'Percent' : 'Amount'}
            hideLabel
            inputMode="decimal"
            placeholder={inPercent ? '10' : '0.00'}
            value={(inPercent ? action.percent : action.amount) ?? ''}
            error={errorAt(inPercent ? '/percent' : '/amount')}
            change={(text) => change(inPercent ? { ...bare, percent: text } : { ...bare, amount: text })}
            commit={commit}
          />
          {relative ? (
            <Select
              label="In money or percent"
              value={inPercent ? 'percent' : 'amount'}
              choices={[
                ['amount', symbol],
                ['percent', '%'],
              ]}
              choose={(value) => change({ ...bare, [value]: action.amount ?? action.percent ?? '' })}
            />
          ) : (
            <span className="pt-1.5 text-soft">{symbol}</span>
          )}
        </span>
      )}
      {remove && (
        <Button look="quiet" className="px-1" aria-label="Do not do this" onClick={remove}>
          <X size={13} aria-hidden />
        </Button>
      )}
    </div>
  )
}
