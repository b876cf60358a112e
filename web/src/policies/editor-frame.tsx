import { Copy } from 'lucide-react'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import type { DocOf } from '../api/kinds'
import { useActs } from '../edits/acts'
import { EditorButtons } from '../ui/editor-buttons'
import { Conflict } from '../ui/conflict'
import { Field } from '../forms/field'
import { FieldError } from '../ui/field-error'
import { Switch } from '../ui/switch'
import type { useDraft } from './use-draft'
import { Button } from '../ui/button'

/** What the editors of offers and rules share: name, on or off, copy and removal, conflicts, the sentence read back. */
export function EditorFrame<K extends 'offers' | 'rules'>({
  kind,
  item,
  draft,
  close,
  sentence,
  opened,
  children,
}: {
  kind: K
  item: DocOf<K>
  draft: ReturnType<typeof useDraft<K>>
  close: () => void
  sentence: (item: (typeof draft)['doc']) => string
  opened: (id: string) => void
  children: ReactNode
}) {
  const acts = useActs()
  const { current, problem } = draft
  const name = item.name ?? ''
  return (
    <div className="mb-2 flex flex-col gap-3 bg-paper px-3 py-3">
      <p className="sticky top-0 z-10 -mx-3 -mt-3 border-b border-hair bg-paper px-3 py-2">
        <span className="font-cond text-soft">Read back: </span>
        {sentence(draft.doc)}
      </p>
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        <Field of={draft.of} at="name" label="Internal name" width="w-72" />
        <div className="flex flex-col gap-1">
          <span className="font-cond text-soft">It is</span>
          <Switch
            label={`${name} on`}
            on={draft.doc.active ?? true}
            change={(active) => draft.put({ active } as Partial<typeof draft.doc>)}
          />
        </div>
        <span className="ml-auto flex gap-1 pt-5">
          {kind === 'offers' && (
            <Link className="quiet underline" to={`/proofs/walk#offer=${item.id}`}>
              Walk its edges
            </Link>
          )}
          <Button look="quiet" onClick={() => acts.duplicate(kind, item.id, name, opened)}>
            <Copy size={13} aria-hidden /> Duplicate
          </Button>
          <EditorButtons
            remove={() => {
              close()
              acts.remove(kind, item, name)
            }}
            close={close}
            closing={`Close ${name}`}
          />
        </span>
      </div>
      {children}
      {current && (
        <Conflict mine={draft.useMine} theirs={draft.drop}>
          <p>Changed elsewhere meanwhile. There now: {sentence(current)} What you typed is still here.</p>
        </Conflict>
      )}
      {problem && <FieldError>{problem}</FieldError>}
    </div>
  )
}
