import { typedOf } from './edits'
import { useEffect, useSyncExternalStore } from 'react'
import { Link } from 'react-router'
import { messageOf } from '../api/client'
import { useWorkshop } from './workshop'
import { counted } from '../ui/locale'
import { Pop } from '../ui/pop'
import type { Edit } from './edits'
import { Button } from '../ui/button'

/** How many edits are not stored, and which: each can be sent again or taken back, wherever its editor has gone. */
export function NotStored() {
  const { edits } = useWorkshop()
  const all = useSyncExternalStore(edits.subscribe, edits.all)
  const held = all.filter(({ stage }) => stage === 'refused' || stage === 'typed')
  const refused = held.some(({ stage }) => stage === 'refused')
  // A page that is left takes what is not stored with it.
  const open = all.length > 0
  useEffect(() => {
    if (!open) return
    const ask = (event: BeforeUnloadEvent) => event.preventDefault()
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [open])
  return (
    <span role="status">
      {held.length > 0 && (
        <Pop
          className={`button ${refused ? 'border-brick text-brick' : ''}`}
          button={
            <>
              {refused && <span aria-hidden>▲ </span>}
              {counted(held.length, 'edit')} not stored yet
            </>
          }
          contentClass="w-[28rem] border border-ink bg-white p-3"
        >
          {(close) => (
            <>
              <h2 className="text-lg">Not stored yet</h2>
              <ul>
                {held.map((edit) => (
                  <Held key={`${edit.thing} ${edit.key}`} edit={edit} close={close} />
                ))}
              </ul>
            </>
          )}
        </Pop>
      )}
    </span>
  )
}

/** What was typed, where it is text. */
function textOf(edit: Edit): string {
  if (typeof edit.typed === 'string') return edit.typed
  const text = typedOf<{ text?: unknown } | null>(edit)?.text
  return typeof text === 'string' && text.length < 80 ? text : ''
}

function Held({ edit, close }: { edit: Edit; close: () => void }) {
  const { edits } = useWorkshop()
  const { thing, key, about, page, stage, problem, current } = edit
  const said = problem && messageOf(problem)
  return (
    <li className="border-t border-hair py-1.5">
      <Link className="font-medium underline underline-offset-2" to={page} onClick={close}>
        {about}
      </Link>
      {textOf(edit) && <span>: “{textOf(edit)}”</span>}
      <p className="text-soft">
        {current ? 'It was changed elsewhere meanwhile.' : (said ?? 'Still being typed.')}
      </p>
      <p className="mt-1 flex gap-2">
        <Button onClick={() => (stage === 'refused' ? edits.again(thing, key) : edits.commit(thing, key))}>
          {current ? 'Use mine' : stage === 'refused' ? 'Try again' : 'Store it'}
        </Button>
        <Button onClick={() => edits.drop(thing, key)}>Discard</Button>
      </p>
    </li>
  )
}
