import { errorOf } from '../api/shapes'
import { useQueryClient } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { ApiProblem, api, answerOf } from '../api/client'
import { useChoices } from '../setup/queries'
import { opening } from '../edits/use-act'
import { Wordmark } from '../ui/wordmark'
import { FieldError } from '../ui/field-error'
import { BookFile } from './book-file'
import { storeBody, StoreFields, type StoreDraft } from './store-fields'
import { Button } from '../ui/button'

const BLANK: StoreDraft = {
  name: '',
  country: '',
  currency: '',
  time_zone: '',
  weight_unit: 'kg',
  length_unit: 'cm',
  prices_include_tax: true,
  method_order: 'price',
  street: '',
  postcode: '',
  ship_from_country: '',
}

/** Opens a shop of one's own. Nothing typed is lost when something needs correcting. */
export function FirstRun() {
  const client = useQueryClient()
  const { data: choices } = useChoices()
  const [draft, setDraft] = useState(BLANK)
  const [problem, setProblem] = useState<Error | null>(null)

  const submit = async (event: FormEvent) => {
    event.preventDefault()
    try {
      client.setQueryData(['setup'], await answerOf(api.POST('/api/store', { body: storeBody(draft) })))
    } catch (error) {
      setProblem(errorOf(error))
    }
  }

  return (
    <main className="mx-auto max-w-3xl px-6 py-10">
      <Wordmark />
      <h1 className="mt-6 text-3xl">Open your shop</h1>
      <p className="mt-1 mb-6 max-w-xl text-soft">
        This makes two zones: your own country, and all other countries. The second one stays off until you
        give it a price. All of it can be changed later, but the currency only while there are no prices.
      </p>
      {choices && (
        <form onSubmit={(event) => void submit(event)} noValidate>
          <StoreFields
            draft={draft}
            choices={choices}
            set={(changes) => setDraft((old) => ({ ...old, ...changes }))}
            errorAt={(pointer) => (problem instanceof ApiProblem ? problem.at(pointer) : undefined)}
          />
          <div className="mt-6 flex items-center gap-4">
            <Button type="submit" className="border-ink px-4 font-semibold">
              Open the shop
            </Button>
            {problem && (
              <FieldError>
                {problem instanceof ApiProblem && problem.problem.errors.length
                  ? 'Some fields need correcting; they are marked above.'
                  : problem.message}
              </FieldError>
            )}
          </div>
        </form>
      )}
      <BookFile take={(call) => call(opening)} />
    </main>
  )
}
