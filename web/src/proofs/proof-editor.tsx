import { theirsOf } from '../edits/edits'
import { ShoppingCart } from 'lucide-react'
import { ApiProblem, type Proof } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { benchOf, documentOf, momentOf, useBenchCart } from '../cart/cart'
import { useActs } from '../edits/acts'
import { useEdited } from '../edits/edited'
import { EditorButtons } from '../ui/editor-buttons'
import { Button } from '../ui/button'
import { Conflict } from '../ui/conflict'
import { Field } from '../forms/field'
import { FieldError } from '../ui/field-error'
import { formatsOf } from '../ui/format'
import { momentWords } from '../ui/moment'
import { ExpectsEditor } from './expects-editor'
import { WhenEditor } from './when-editor'
import { cartSentence, expectsSentence } from '../words/proofs'
import { useProofActs, type Outcome } from './use-proofs'

/** A proof in place: its name, its cart, its moment, and what it is to get. */
export function ProofEditor({
  proof,
  outcome,
  close,
}: {
  proof: Proof
  outcome: Outcome
  close: () => void
}) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const acts = useActs()
  const { record } = useProofActs()
  const bench = useBenchCart()
  const of = useEdited('proofs', proof)
  const { doc } = of
  const clashing = of.edits.filter(({ current, key }) => current && !['name', 'note', 'tags'].includes(key))
  const current = theirsOf<Proof>(clashing[0])
  const lost = of.edits.find(({ problem }) => problem && !(problem instanceof ApiProblem))?.problem
  return (
    <div className="mt-1 mb-2 flex flex-col gap-3 bg-paper px-3 py-3">
      <div className="flex flex-wrap items-start gap-x-5 gap-y-2">
        <Field of={of} at="name" label="Name" width="w-80" />
        <Field
          of={of}
          at="tags"
          label="Tags"
          width="w-44"
          placeholder="none"
          value={({ tags }) => (tags ?? []).join(', ')}
          write={(text) => ({
            tags: text
              .split(',')
              .map((tag) => tag.trim())
              .filter(Boolean),
          })}
        />
        <span className="ml-auto flex gap-1 pt-5">
          <EditorButtons
            remove={() => {
              close()
              acts.remove('proofs', proof, proof.name ?? '')
            }}
            close={close}
            closing={`Close ${proof.name}`}
          />
        </span>
        <Field
          of={of}
          at="note"
          label="Note"
          width="w-full"
          className="w-full max-w-2xl"
          placeholder="why it matters"
        />
      </div>
      <div>
        <h3 className="text-base">The cart</h3>
        <p>{cartSentence(doc)}</p>
        <p className="flex flex-wrap gap-1">
          <Button
            look="quiet"
            onClick={() => bench.replace({ ...benchOf(doc.cart, ''), when: momentForBench(doc, outcome) })}
          >
            <ShoppingCart size={13} aria-hidden /> Put it on the bench
          </Button>
          <Button
            look="quiet"
            onClick={() =>
              of.put('cart', `${proof.name}: the cart`, () => ({
                cart: documentOf(bench.cart),
                ...(momentOf(bench.cart) ? { at: momentOf(bench.cart), weekdays: null, time: null } : {}),
              }))
            }
          >
            Take the cart from the bench
          </Button>
        </p>
        {of.problemAt('/cart') && <FieldError>{of.problemAt('/cart')}</FieldError>}
      </div>
      <WhenEditor of={of} />
      <ExpectsEditor of={of} formats={formats} />
      {outcome.recorded_at && (
        <p className="text-soft">
          Live prices are those that carriers answered with on {momentWords(outcome.recorded_at)}.{' '}
          <Button look="quiet" onClick={() => void record({ ids: [proof.id] })}>
            Ask again
          </Button>
        </p>
      )}
      {current && (
        <Conflict
          mine={() => clashing.forEach(({ key }) => of.again(key))}
          theirs={() => clashing.forEach(({ key }) => of.drop(key))}
        >
          <p>
            Changed elsewhere meanwhile. There now: {cartSentence(current)};{' '}
            {expectsSentence(current.expects, setup, formats)}. What you did is still here.
          </p>
        </Conflict>
      )}
      {lost && <FieldError>{lost.message}</FieldError>}
    </div>
  )
}

/** The bench knows moments and now, no days of the week. */
function momentForBench({ at, weekdays }: Proof, outcome: Outcome): string {
  return at ?? (weekdays?.length ? outcome.at : '')
}
