import { Plus, X } from 'lucide-react'
import type { Tree } from '../api/client'
import { FieldError } from '../ui/field-error'
import { ConditionEditor } from './condition-editor'
import { isTree, kindOf, KINDS, partsOf, type Kind, type Part } from '../words/rules'
import { Select } from '../ui/select'
import { Button } from '../ui/button'

const DEEPEST = 4

interface Props {
  tree: Tree
  depth: number
  pointer: string
  change: (tree: Tree) => void
  put: (tree: Tree) => void
  commit: () => void
  errorAt: (pointer: string) => string | undefined
  remove?: () => void
}

const NAMES: Record<Kind, string> = {
  all: 'all of these',
  any: 'any of these',
  none: 'none of these',
}

/** Conditions tied together; groups of them stand in one another. */
export function TreeEditor({ tree, depth, pointer, change, put, commit, errorAt, remove }: Props) {
  const kind = kindOf(tree)
  const parts = partsOf(tree)
  const withParts = (next: Part[]): Tree => ({ [kind]: next })
  const withPart = (at: number, part: Part) =>
    withParts(parts.map((one, place) => (place === at ? part : one)))
  const without = (at: number) => put(withParts(parts.filter((_, place) => place !== at)))
  return (
    <div
      role="group"
      aria-label={`Conditions: ${NAMES[kind]}`}
      className={depth > 1 ? 'border-l-2 border-ink pl-3' : ''}
    >
      <span className="flex items-center gap-2">
        <Select
          label="How many must hold"
          value={kind}
          choices={KINDS.map((one) => [one, NAMES[one]] as const)}
          choose={(value) => put({ [value]: parts })}
        />
        {parts.length === 0 && (
          <span className="text-soft">
            {kind === 'any' ? 'nothing: it never holds' : 'nothing: it always holds'}
          </span>
        )}
        {remove && (
          <Button look="quiet" className="px-1" aria-label="Remove this group" onClick={remove}>
            <X size={13} aria-hidden />
          </Button>
        )}
      </span>
      <ul className="mt-1.5 ml-3 flex flex-col gap-1.5">
        {parts.map((part, at) => {
          const place = `${pointer}/${kind}/${at}`
          return (
            <li key={at}>
              {isTree(part) ? (
                <TreeEditor
                  tree={part}
                  depth={depth + 1}
                  pointer={place}
                  change={(next) => change(withPart(at, next))}
                  put={(next) => put(withPart(at, next))}
                  commit={commit}
                  errorAt={errorAt}
                  remove={() => without(at)}
                />
              ) : (
                <ConditionEditor
                  condition={part}
                  change={(next) => change(withPart(at, next))}
                  put={(next) => put(withPart(at, next))}
                  commit={commit}
                  errorAt={(below) => errorAt(`${place}${below}`)}
                  remove={() => without(at)}
                />
              )}
            </li>
          )
        })}
      </ul>
      <span className="mt-1 ml-3 flex gap-1">
        <Button look="quiet" onClick={() => change(withParts([...parts, { fact: 'value', from: '' }]))}>
          <Plus size={13} aria-hidden /> Condition
        </Button>
        {depth < DEEPEST && (
          <Button look="quiet" onClick={() => put(withParts([...parts, { any: [] }]))}>
            <Plus size={13} aria-hidden /> Group of conditions
          </Button>
        )}
      </span>
      {depth > DEEPEST && <FieldError>Groups stand in one another four deep at most.</FieldError>}
    </div>
  )
}
