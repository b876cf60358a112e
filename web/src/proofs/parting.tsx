import { Link } from 'react-router'
import type { Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { settingPath } from '../reckoning/paths'
import { causeSentence, stepSentence } from '../words/reckoning'
import { formatsOf, type Formats } from '../ui/format'
import { Price } from '../ui/price'
import { useParting } from './use-proofs'

type Parted = Schemas['ProofParting']['methods'][number]

/** Before and after of a cart that gets something else, and the line of the reckoning in which they part. */
export function Parting({ id }: { id: string }) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const { data } = useParting(id, true)
  if (!data?.methods.length) return null
  return (
    <ul aria-label="Before and after" className="mt-1 max-w-2xl border-l-2 border-edge pl-2">
      {data.methods.map((one) => (
        <li key={one.method} className="py-0.5">
          <span className="font-medium">{one.name}</span> <Side amount={one.before} formats={formats} />
          <span aria-hidden> → </span>
          <span className="sr-only">, now </span>
          <Side amount={one.after} formats={formats} />
          <Why of={one} formats={formats} />
        </li>
      ))}
    </ul>
  )
}

function Side({ amount, formats }: { amount: string | null; formats: Formats }) {
  return amount === null ? (
    <span className="font-cond text-soft">not offered</span>
  ) : (
    <Price amount={amount} formats={formats} />
  )
}

function Why({ of: { cause, first, setting }, formats }: { of: Parted; formats: Formats }) {
  const [before, after] = first
  return (
    <p className="text-soft">
      {cause && <>Now {causeSentence(cause, formats)}. </>}
      {before && <>It was: {stepSentence(before, formats)}. </>}
      {after && <>It is: {stepSentence(after, formats)}. </>}
      {setting && (
        <Link className="whitespace-nowrap underline underline-offset-2" to={settingPath(setting)}>
          go to the setting
        </Link>
      )}
    </p>
  )
}
