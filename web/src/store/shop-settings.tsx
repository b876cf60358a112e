import { useState, type FormEvent } from 'react'
import { toast } from 'sonner'
import { ApiProblem, call, type Store } from '../api/client'
import { useChoices, useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import { BookFile } from './book-file'
import { Taxes } from './taxes'
import { storeBody, StoreFields, type StoreDraft } from './store-fields'

function draftOf(store: Store): StoreDraft {
  return {
    name: store.name ?? '',
    country: store.country ?? '',
    currency: store.currency ?? '',
    time_zone: store.time_zone ?? '',
    weight_unit: store.weight_unit ?? '',
    length_unit: store.length_unit ?? '',
    prices_include_tax: store.prices_include_tax ?? true,
    method_order: store.method_order ?? 'price',
    street: (store.ship_from?.lines ?? []).join('\n'),
    postcode: store.ship_from?.postcode ?? '',
    ship_from_country: store.ship_from?.country ?? '',
  }
}

/** The shop itself: what was said when it was opened. */
export function ShopSettings() {
  const { setup } = useWorkshop()
  const store = setup.store!
  // A new version from elsewhere shows itself, unless something is being typed here.
  return <Form key="shop" store={store} />
}

function Form({ store }: { store: Store }) {
  const { edit } = useWorkshop()
  const { data: choices } = useChoices()
  const [draft, setDraft] = useState<StoreDraft | null>(null)
  const [base, setBase] = useState(store.lock_version)
  const [problem, setProblem] = useState<Error | null>(null)
  const shown = draft ?? draftOf(store)
  const stale =
    problem instanceof ApiProblem && problem.problem.status === 409
      ? (problem.problem.current as Store)
      : null

  const send = async (version: number) => {
    try {
      await edit(() => call('PATCH', '/api/store', { ...storeBody(shown), lock_version: version }))
      setDraft(null)
      setProblem(null)
      toast('Kept')
    } catch (error) {
      setProblem(error as Error)
    }
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    void send(base)
  }
  const set = (changes: Partial<StoreDraft>) => {
    if (!draft) setBase(store.lock_version)
    setDraft({ ...shown, ...changes })
  }
  const theirs = stale && draftOf(stale)
  const differing = theirs
    ? (Object.keys(theirs) as (keyof StoreDraft)[]).filter((key) => theirs[key] !== shown[key])
    : []
  return (
    <div className="px-6 pt-3 pb-10">
      <h1 className="mb-4 text-2xl">The shop</h1>
      {choices && (
        <form onSubmit={submit} noValidate>
          <StoreFields
            draft={shown}
            set={set}
            choices={choices}
            errorAt={(pointer) => (problem instanceof ApiProblem ? problem.at(pointer) : undefined)}
          />
          {theirs && stale && (
            <div role="alert" className="mt-4 max-w-2xl border-l-4 border-ochre bg-white px-3 py-2">
              <p>This was changed elsewhere meanwhile. What stands there now, beside what is typed here:</p>
              <ul>
                {differing.map((key) => (
                  <li key={key}>
                    {key.replaceAll('_', ' ')}: <b>{String(theirs[key]) || 'nothing'}</b> /{' '}
                    {String(shown[key]) || 'nothing'}
                  </li>
                ))}
              </ul>
              <p className="mt-2 flex gap-2">
                <button type="button" className="button" onClick={() => void send(stale.lock_version)}>
                  Use mine
                </button>
                <button
                  type="button"
                  className="button"
                  onClick={() => {
                    setDraft(null)
                    setProblem(null)
                  }}
                >
                  Keep what is there
                </button>
              </p>
            </div>
          )}
          <div className="mt-6 flex items-center gap-4">
            <button type="submit" className="button border-ink px-4 font-semibold" disabled={!draft}>
              Keep these
            </button>
            {draft && (
              <button
                type="button"
                className="quiet"
                onClick={() => {
                  setDraft(null)
                  setProblem(null)
                }}
              >
                Take it back
              </button>
            )}
            {problem && !stale && <FieldError>{problem.message}</FieldError>}
          </div>
        </form>
      )}
      <Taxes />
      <BookFile />
    </div>
  )
}
