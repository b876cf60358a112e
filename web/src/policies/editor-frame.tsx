import { Copy, Trash2, X } from 'lucide-react'
import type { ReactNode } from 'react'
import { call } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useTold } from '../board/edits'
import { Conflict } from '../ui/conflict'
import { Field, FieldError } from '../ui/field'
import { Switch } from '../ui/switch'

interface Item {
  id: string
  name?: string
  active?: boolean
  lock_version: number
}

/** What the editors of offers and rules share: name, on or off, copy and removal, conflicts, the sentence read back. */
export function EditorFrame<Kind extends Item>({
  item,
  path,
  put,
  close,
  sentence,
  current,
  useMine,
  drop,
  problem,
  opened,
  children,
}: {
  item: Kind
  path: string
  put: (fields: { active: boolean }) => void
  close: () => void
  sentence: string
  /** How it stands elsewhere now, as a sentence, where somebody changed it. */
  current: string | null
  useMine: () => void
  drop: () => void
  problem: string | null
  opened: (id: string) => void
  children: ReactNode
}) {
  const { edit } = useWorkshop()
  const told = useTold()
  const copy = () => {
    void told(`Duplicated ${item.name}`, async () => {
      const made = await call<Kind>('POST', `${path}/${item.id}/copy`, {})
      opened(made.id)
    })
  }
  return (
    <div className="mb-2 flex flex-col gap-3 bg-paper px-3 py-3">
      <p className="sticky top-0 z-10 -mx-3 -mt-3 border-b border-hair bg-paper px-3 py-2">
        <span className="font-cond text-soft">Read back: </span>
        {sentence}
      </p>
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        <Field
          label="Name, for yourself"
          width="w-72"
          value={item.name ?? ''}
          version={item.lock_version}
          pointer="/name"
          save={(name, version) =>
            edit(() => call('PATCH', `${path}/${item.id}`, { name, lock_version: version }))
          }
          read={(there) => (there as Kind).name ?? ''}
        />
        <div className="flex flex-col gap-1">
          <span className="font-cond text-soft">It is</span>
          <Switch label={`${item.name} on`} on={item.active ?? true} change={(active) => put({ active })} />
        </div>
        <span className="ml-auto flex gap-1 pt-5">
          <button type="button" className="quiet" onClick={copy}>
            <Copy size={13} aria-hidden /> Duplicate
          </button>
          <button
            type="button"
            className="quiet"
            onClick={() => {
              close()
              void told(`Removed ${item.name}`, () =>
                call('DELETE', `${path}/${item.id}?lock_version=${item.lock_version}`),
              )
            }}
          >
            <Trash2 size={13} aria-hidden /> Remove
          </button>
          <button type="button" className="quiet px-1" aria-label={`Close ${item.name}`} onClick={close}>
            <X size={14} aria-hidden />
          </button>
        </span>
      </div>
      {children}
      {current && (
        <Conflict mine={useMine} theirs={drop}>
          <p>Changed elsewhere meanwhile. There now: {current} What you typed is still here.</p>
        </Conflict>
      )}
      {problem && <FieldError>{problem}</FieldError>}
    </div>
  )
}
