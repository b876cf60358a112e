import { call, type Rule } from '../api/client'
import { useWorkshop } from '../api/setup'
import { useBenchResult } from '../bench/result'
import { useFindingsAbout } from '../findings/about'
import { PolicyList, useOpened } from '../policies/policy-list'
import { AddByName } from '../ui/add-by-name'
import { formatsOf } from '../ui/format'
import { RuleEditor } from './rule-editor'
import { ruleSentence, verdictSentence } from './words'

/** Every rule as a sentence, in the order in which they act, with what it does to the bench cart. */
export function RuleList() {
  const { setup, edit } = useWorkshop()
  const { bench } = useBenchResult()
  const formats = formatsOf(setup.store!)
  const { opened, open } = useOpened('/rules', 'rule')
  const stand = (rule: Rule) => {
    const verdict = bench?.quote.rules.find((one) => one.rule === rule.id)
    if (!verdict || !rule.active) return null
    return (
      <>
        Bench cart: <span className="text-ink">{verdictSentence(verdict, setup, formats)}</span>
      </>
    )
  }
  return (
    <div className="pb-8">
      <p className="mb-2 max-w-3xl text-soft">
        Rules act last, from top to bottom, on the prices that rates, treatments and offers have made. A later
        name takes the place of an earlier one; two “only these” leave what both leave.
      </p>
      <PolicyList
        label="Rules"
        path="/api/rules"
        items={setup.rules}
        opened={opened}
        open={open}
        findings={useFindingsAbout('rules')}
        sentence={(rule) => ruleSentence(rule, setup, formats)}
        stand={stand}
        editor={(rule) => <RuleEditor key={rule.id} rule={rule} close={() => open(null)} opened={open} />}
      />
      {setup.rules.length === 0 && (
        <p className="border-t border-hair py-3">
          There are no rules yet. Name one below; it starts switched off.
        </p>
      )}
      <AddByName
        what="rule"
        inputId="new-rule"
        add={async (name) => {
          const first = setup.methods[0]
          const made = await edit(() =>
            call<Rule>('POST', '/api/rules', {
              name,
              active: false,
              when: { all: [] },
              then: [{ kind: 'hide', ...(first ? { methods: [first.id] } : {}) }],
            }),
          )
          open(made.id)
        }}
      />
    </div>
  )
}
