import { useState } from 'react'
import { type Bench, type Quote, type Rule } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useAllReckonings, useBenchResult } from '../cart/result'
import { SecondBench } from '../cart/second'
import { useFindingsAbout } from '../findings/about'
import { PolicyList, useOpened } from '../policies/policy-list'
import { AddByName } from '../forms/add-by-name'
import { formatsOf } from '../ui/format'
import { ruleDoes } from './does'
import { RuleEditor } from './rule-editor'
import { ruleSentence, verdictSentence } from '../words/rules'
import { list } from '../ui/locale'
import { Empty } from '../ui/said'

/** Every rule as a sentence, in the order in which they act, with what it does to the bench cart. */
export function RuleList() {
  const { setup } = useWorkshop()
  const { bench } = useBenchResult()
  useAllReckonings()
  const formats = formatsOf(setup.store)
  const { opened, open } = useOpened('/rules', 'rule')
  const [second, setSecond] = useState<Bench | undefined>()
  const stand = (rule: Rule) =>
    rule.active && (
      <>
        <Stand label="Bench cart" rule={rule} quote={bench?.quote} />
        {second && <Stand label="Second cart" rule={rule} quote={second.quote} />}
      </>
    )
  return (
    <div className="pb-8">
      <SecondBench report={setSecond} />
      <p className="mb-2 max-w-3xl text-soft">
        Rules act last, from top to bottom, on the prices that rates, treatments and offers have made. A later
        name takes the place of an earlier one; two “only these” leave what both leave.
      </p>
      <PolicyList
        label="Rules"
        kind="rules"
        items={setup.rules}
        opened={opened}
        open={open}
        findings={useFindingsAbout('rules')}
        sentence={(rule) => ruleSentence(rule, setup, formats)}
        stand={stand}
        editor={(rule) => <RuleEditor key={rule.id} rule={rule} close={() => open(null)} opened={open} />}
      />
      {setup.rules.length === 0 && (
        <Empty>There are no rules yet. Name one below; it starts switched off.</Empty>
      )}
      <AddByName
        kind="rules"
        what="rule"
        inputId="new-rule"
        draft={(name) => ({
          name,
          active: false,
          when: { all: [] },
          then: [{ kind: 'hide', ...(setup.methods[0] ? { methods: [setup.methods[0].id] } : {}) }],
        })}
        added={(made) => open(made.id)}
      />
    </div>
  )
}

/** What a rule does to one cart now, or what is missing. */
function Stand({ label, rule, quote }: { label: string; rule: Rule; quote: Quote | undefined }) {
  const { setup } = useWorkshop()
  const formats = formatsOf(setup.store)
  const verdict = quote?.rules.find((one) => one.rule === rule.id)
  if (!quote || !verdict) return null
  const does = ruleDoes(rule.id, quote, setup, formats)
  return (
    <span className="block">
      {label}:{' '}
      <span className="text-ink">
        {verdict.held && does.length
          ? `Holds for this cart: ${list(does)}.`
          : verdictSentence(verdict, setup, formats)}
        {verdict.held && !does.length && ' It changes nothing here.'}
      </span>
    </span>
  )
}
