import { byId } from '../api/by-id'
import { useQuery } from '@tanstack/react-query'
import { ChevronDown, Redo2, Undo2 } from 'lucide-react'
import { api, answerOf, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { sentenceOfChange } from '../words/history'
import { documentOf, momentOf, useBenchCart } from '../cart/cart'
import { formatsOf } from '../ui/format'
import { Pop } from '../ui/pop'
import { Answer } from '../ui/answer'
import { Sure } from '../ui/sure'
import { Button } from '../ui/button'
import { timeWords } from '../ui/moment'

/** Undo and redo, each naming what it would do, and the list of changes. */
export function HistoryButtons() {
  const { setup, undo, redo } = useWorkshop()
  const { undo: last, redo: next } = setup.history
  return (
    <span className="flex items-center">
      <Button
        look="quiet"
        disabled={!last}
        data-tip={last ? `Undo: ${sentenceOfChange(last)} (Ctrl+Z)` : 'Nothing to undo'}
        onClick={() => void undo()}
      >
        <Undo2 size={14} aria-hidden /> <span className="max-[1400px]:sr-only">Undo</span>
        {last && <span className="sr-only">: {sentenceOfChange(last)}</span>}
      </Button>
      <Button
        look="quiet"
        disabled={!next}
        data-tip={next ? `Redo: ${sentenceOfChange(next)} (Ctrl+Shift+Z)` : 'Nothing to redo'}
        onClick={() => void redo()}
      >
        <Redo2 size={14} aria-hidden /> <span className="max-[1400px]:sr-only">Redo</span>
        {next && <span className="sr-only">: {sentenceOfChange(next)}</span>}
      </Button>
      <Pop
        className="quiet px-1"
        label="Changes so far"
        title="Changes so far"
        button={<ChevronDown size={14} aria-hidden />}
        contentClass="w-[26rem] border border-ink bg-white p-3"
      >
        {() => <Changes />}
      </Pop>
    </span>
  )
}

function Changes() {
  const { setup, undoOthers } = useWorkshop()
  const { cart } = useBenchCart()
  const asked = useQuery({
    queryKey: ['history', setup.revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/history', { signal })),
  })
  const question = { cart: documentOf(cart), at: momentOf(cart) }
  const { data: told } = useQuery({
    queryKey: ['effects', setup.revision, question],
    queryFn: ({ signal }) => answerOf(api.POST('/api/history/effects', { body: question, signal })),
    retry: false,
  })
  return (
    <>
      <h2 className="text-lg">Changes, the newest first</h2>
      <p className="text-soft">With what each did to the cart on the bench, as far back as that is kept.</p>
      <Answer of={asked}>
        {({ changes }) =>
          changes.length === 0 ? (
            <p className="text-soft">None yet. Every edit will stand here.</p>
          ) : (
            <ol>
              {changes.map((change) => (
                <li key={change.id} className="border-t border-hair py-1">
                  <span className="flex justify-between gap-3">
                    <span className="first-letter:uppercase">
                      {sentenceOfChange(change)}
                      {change.by && <span className="text-soft"> · {change.by}</span>}
                    </span>
                    <time className="whitespace-nowrap text-soft" dateTime={change.at}>
                      {timeWords(change.at, { dateStyle: 'short', timeStyle: 'short' })}
                    </time>
                  </span>
                  {change.id === setup.history.last?.id && (
                    <span className="block">
                      <Sure
                        act="Undo it, though it is not yours"
                        really={`Undo what ${change.by ?? 'somebody who was not signed in'} did`}
                        run={() => void undoOthers(change)}
                      />
                    </span>
                  )}
                  <Effect rates={told?.effects.find(({ revision }) => revision === change.revision)?.rates} />
                </li>
              ))}
            </ol>
          )
        }
      </Answer>
    </>
  )
}

/** What a change did to the bench cart: each method with another price than before, or that there is none. */
function Effect({ rates }: { rates: Schemas['Effects']['effects'][number]['rates'] | undefined }) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  if (!rates) return null
  const written = (price: string | null) => (price === null ? 'not available' : formats.price(price))
  const nameOf = (id: string) => {
    const rate = byId(setup.rates, id)
    return rate?.name ?? byId(setup.methods, rate?.method)?.name ?? 'a method that is gone'
  }
  const changed = Object.entries(rates)
  return (
    <span className="block text-xs text-soft">
      {changed.length === 0
        ? 'No price of the bench cart changed.'
        : changed.map(([id, { before, after }], at) => (
            <span key={id}>
              {at > 0 && '; '}
              {nameOf(id)}: {written(before)} → <b className="text-ink">{written(after)}</b>
            </span>
          ))}
    </span>
  )
}
