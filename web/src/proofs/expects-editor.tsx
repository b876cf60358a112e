import { byId } from '../api/by-id'
import { ApiProblem, type Proof, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import type { Edited } from '../edits/edited'
import { Button } from '../ui/button'
import { FieldError } from '../ui/field-error'
import type { Formats } from '../ui/format'
import { Movers, Remover } from '../ui/row-buttons'
import { Select } from '../ui/select'
import { Table } from '../ui/table'
import { Tick } from '../ui/tick'
import { Typed } from '../ui/typed'
import { moved } from '../edits/acts'
import { KINDS, statusWords } from '../words/proofs'

type Expects = Schemas['Expects']
type Method = Schemas['ProofMethod']

const PRICED = ['exact', 'at_most', 'at_least']
const MARKS = ['cheapest', 'fastest'] as const

/** The expected result of a proof: one row per method, and the settings for the whole cart. */
export function ExpectsEditor({ of, formats }: { of: Edited<Proof>; formats: Formats }) {
  const { setup } = useWorkshop()
  const { expects } = of.doc
  const methods = expects.methods ?? []
  const about = `${of.stored.name}: expected result`
  const change = (fields: Expects) =>
    of.change('expects', about, (doc) => ({ expects: clean({ ...doc.expects, ...fields }) }))
  const put = (fields: Expects) => {
    change(fields)
    of.commit('expects')
  }
  const setMethod = (at: number, fields: Partial<Method>) =>
    methods.map((one, index) => (index === at ? { ...one, ...fields } : one))
  const missing = setup.methods.filter(({ id }) => !methods.some(({ method }) => method === id))
  const nameOf = (id: string) => byId(setup.methods, id)?.name ?? 'a method that is gone'
  return (
    <fieldset>
      <legend className="font-cond text-base">Expected result</legend>
      {methods.length > 0 && (
        <Table className="w-full max-w-3xl" aria-label="Expected methods">
          <thead>
            <tr className="text-left font-cond text-soft">
              <th className="pr-3 font-normal">Method</th>
              <th className="pr-3 font-normal">Price</th>
              <th className="pr-3 font-normal">Marked</th>
              <th className="pr-3 font-normal">Message</th>
              <th>
                <span className="sr-only">Order</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {methods.map((one, at) => {
              const name = nameOf(one.method)
              return (
                <tr key={one.method} className="border-t border-hair align-top">
                  <th scope="row" className="py-1 pr-3 text-left font-medium">
                    {name}
                  </th>
                  <td className="py-1 pr-3">
                    <span className="flex flex-wrap items-start gap-1">
                      <Select
                        label={`${name}: expected`}
                        value={one.is}
                        choices={KINDS}
                        choose={(is) =>
                          (PRICED.includes(is) && !one.amount ? change : put)({
                            methods: setMethod(at, { is, ...(PRICED.includes(is) ? {} : { amount: null }) }),
                          })
                        }
                      />
                      {PRICED.includes(one.is) && (
                        <Typed
                          label={`${name}: amount, ${formats.symbol}`}
                          hideLabel
                          width="w-20"
                          inputMode="decimal"
                          value={one.amount ?? ''}
                          error={of.problemAt(`/expects/methods/${at}/amount`)}
                          change={(amount) => change({ methods: setMethod(at, { amount }) })}
                          commit={() => of.commit('expects')}
                        />
                      )}
                    </span>
                  </td>
                  <td className="py-1 pr-3">
                    {one.is !== 'not_offered' && (
                      <span className="flex flex-wrap gap-x-3">
                        {MARKS.map((mark) => (
                          <Tick
                            key={mark}
                            label={`${name}: the ${mark}`}
                            on={one.marks?.includes(mark) ?? false}
                            change={(on) =>
                              put({
                                methods: setMethod(at, {
                                  marks: MARKS.filter((other) =>
                                    other === mark ? on : (one.marks?.includes(other) ?? false),
                                  ),
                                }),
                              })
                            }
                          >
                            {mark}
                          </Tick>
                        ))}
                      </span>
                    )}
                  </td>
                  <td className="py-1 pr-3">
                    {one.is !== 'not_offered' && (
                      <Typed
                        label={`${name}: message`}
                        hideLabel
                        width="w-56"
                        placeholder="any"
                        value={(one.messages ?? []).join(' | ')}
                        change={(text) =>
                          change({
                            methods: setMethod(at, { messages: text.split('|').map((part) => part.trim()) }),
                          })
                        }
                        commit={() => of.commit('expects')}
                      />
                    )}
                  </td>
                  <td className="py-1 whitespace-nowrap">
                    <Movers
                      name={name}
                      at={at}
                      of={methods.length}
                      move={(by) => put({ methods: moved(methods, at, by) ?? methods })}
                    />
                    <Remover
                      name={`${name} from the expected methods`}
                      remove={() => put({ methods: methods.filter((_, index) => index !== at) })}
                    />
                  </td>
                </tr>
              )
            })}
          </tbody>
        </Table>
      )}
      <div className="mt-1 flex flex-wrap items-center gap-x-5 gap-y-1">
        {missing.length > 0 && (
          <Select
            label="Add a method"
            placeholder="Add a method …"
            value=""
            choices={missing.map(({ id, name }) => [id, name] as const)}
            choose={(method) => put({ methods: [...methods, { method, is: 'offered' }] })}
          />
        )}
        <Tick on={expects.only ?? false} change={(only) => put({ only })}>
          and no other method
        </Tick>
        <Tick on={expects.ordered ?? false} change={(ordered) => put({ ordered })}>
          In this order
        </Tick>
        <label className="flex items-center gap-1.5">
          <span className="font-cond text-soft">Zone</span>
          <Select
            label="Expected zone"
            value={expects.zone ?? ''}
            choices={[['', 'Any'], ...setup.zones.map(({ id, name }) => [id, name] as const)]}
            choose={(zone) => put({ zone: zone || null })}
          />
        </label>
        <label className="flex items-center gap-1.5">
          <span className="font-cond text-soft">Status</span>
          <Select
            label="Expected status"
            value={expects.status ?? ''}
            choices={[
              ['', 'Any'],
              ...(
                ['priced', 'nothing_available', 'not_served', 'undetermined', 'nothing_ships'] as const
              ).map((status) => [status, statusWords(status)] as const),
            ]}
            choose={(status) => put({ status: status || null })}
          />
        </label>
      </div>
      {(expects.text || expects.status === 'nothing_available' || expects.status === 'not_served') && (
        <Typed
          label="Expected message"
          width="w-96"
          placeholder="Any"
          value={expects.text ?? ''}
          error={of.problemAt('/expects/text')}
          change={(text) => change({ text })}
          commit={() => of.commit('expects')}
        />
      )}
      {!/\/methods\/\d+\/amount/.test(pointerOf(of)) && of.problemAt('/expects') && (
        <FieldError>{of.problemAt('/expects')}</FieldError>
      )}
      {of.at('expects')?.stage === 'refused' && (
        <Button look="quiet" onClick={() => of.drop('expects')}>
          Take it back
        </Button>
      )}
    </fieldset>
  )
}

/** Where the server points when it refuses what was typed. */
function pointerOf(of: Edited<Proof>): string {
  const problem = of.at('expects')?.problem
  return problem instanceof ApiProblem ? problem.problem.errors.map(({ pointer }) => pointer).join(' ') : ''
}

/** Without what says nothing. */
function clean(expects: Expects): Expects {
  return {
    ...expects,
    methods: (expects.methods ?? []).map(({ messages, ...one }) => {
      const said = messages?.filter(Boolean) ?? []
      return said.length ? { ...one, messages: said } : one
    }),
  }
}
