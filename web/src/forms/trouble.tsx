import { messageOf } from '../api/client'
import type { Edited } from '../edits/edited'
import { Button } from '../ui/button'
import { Conflict } from '../ui/conflict'
import { FieldError } from '../ui/field-error'

/** What was refused of a thing, right below it, with the ways on: for what is chosen rather than typed. */
export function Trouble<D extends object>({ of, at }: { of: Edited<D>; at?: string }) {
  return of.edits
    .filter(({ key, stage }) => stage === 'refused' && (at === undefined || key === at))
    .map(({ key, about, current, problem }) =>
      current ? (
        <Conflict key={key} mine={() => of.again(key)} theirs={() => of.drop(key)}>
          <p>{about}: changed elsewhere meanwhile.</p>
        </Conflict>
      ) : (
        <div key={key} className="flex flex-wrap items-center gap-1.5">
          <FieldError>{problem && messageOf(problem)}</FieldError>
          <Button onClick={() => of.again(key)}>Try again</Button>
          <Button look="quiet" onClick={() => of.drop(key)}>
            Discard
          </Button>
        </div>
      ),
    )
}
