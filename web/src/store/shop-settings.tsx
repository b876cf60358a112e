import { typedOf, thingOf } from '../edits/edits'
import { keysOf } from '../api/shapes'
import { toast } from '../ui/toast'
import type { Store } from '../api/client'
import { useChoices } from '../setup/queries'
import { useEditedStore } from '../edits/edited'
import { useAct } from '../edits/use-act'
import { Conflict } from '../ui/conflict'
import { FieldError } from '../ui/field-error'
import { Backups } from './backups'
import { BookFile } from './book-file'
import { Taxes } from './taxes'
import { storeBody, StoreFields, type StoreDraft } from './store-fields'
import { Button } from '../ui/button'

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
  const taking = useAct('/api/setup', 'import', 'Take the setup from a file')
  return (
    <div className="pb-10">
      <Form />
      <Taxes />
      <BookFile take={(call) => taking.awaited(call, 'The setup is taken over from the file')} />
      <Backups />
    </div>
  )
}

const KEY = 'shop'

function Form() {
  const edited = useEditedStore()
  const { data: choices } = useChoices()
  const edit = edited.at(KEY)
  const typed = typedOf<Partial<StoreDraft>>(edit) ?? {}
  const shown = { ...draftOf(edited.stored), ...typed }
  const set = (more: Partial<StoreDraft>) => {
    const fields = { ...typed, ...more }
    const make = (store: Store) => storeBody({ ...draftOf(store), ...fields }) as Partial<Store>
    edited.change(KEY, 'The shop', make, {
      typed: fields,
      read: draftOf,
      stored: () => toast('Saved'),
    })
  }
  const theirs = edit?.current ? draftOf(thingOf<Store>(edit.current)) : null
  const differing = theirs ? keysOf(typed).filter((key) => theirs[key] !== shown[key]) : []
  if (!choices) return null
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault()
        if (edit?.stage === 'refused') edited.again(KEY)
        else edited.commit(KEY)
      }}
    >
      <StoreFields draft={shown} set={set} choices={choices} errorAt={edited.problemAt} />
      {theirs && (
        <div className="mt-4 max-w-2xl">
          <Conflict mine={() => edited.again(KEY)} theirs={() => edited.drop(KEY)}>
            <p>This was changed elsewhere meanwhile. What stands there now, beside what is typed here:</p>
            <ul>
              {differing.map((key) => (
                <li key={key}>
                  {key.replaceAll('_', ' ')}: <b>{String(theirs[key]) || 'nothing'}</b> /{' '}
                  {String(shown[key]) || 'nothing'}
                </li>
              ))}
            </ul>
          </Conflict>
        </div>
      )}
      <div className="mt-6 flex items-center gap-4">
        <Button type="submit" className="border-ink px-4 font-semibold" disabled={!edit}>
          Save
        </Button>
        {edit && (
          <Button look="quiet" onClick={() => edited.drop(KEY)}>
            Discard
          </Button>
        )}
        {edit?.problem && !theirs && <FieldError>{edit.problem.message}</FieldError>}
      </div>
    </form>
  )
}
