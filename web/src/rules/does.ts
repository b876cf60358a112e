import { byId } from '../api/by-id'
import type { Quote, ReckoningStep, Setup } from '../api/client'
import type { Formats } from '../ui/format'

function stepWords(method: string, step: ReckoningStep, formats: Formats): string {
  const numbers = step.numbers as Record<string, string>
  switch (step.code) {
    case 'rule.price':
      return `${method} ${formats.price(numbers.before ?? '0')} → ${formats.price(step.amount ?? '0')}`
    case 'rule.renamed':
      return `${numbers.from} is called “${numbers.to}”`
    default:
      return `says “${numbers.text ?? ''}” with ${method}`
  }
}

/** Whether a step left something other than it found. */
function changes({ code, amount, numbers }: ReckoningStep): boolean {
  return code !== 'rule.price' || amount !== (numbers as { before?: string }).before
}

/** What a rule does to the methods of a cart: prices before and after, names, what it hides. */
export function ruleDoes(rule: string, quote: Quote, setup: Setup, formats: Formats): string[] {
  return quote.methods.flatMap((method) => {
    const name = byId(setup.methods, method.method)?.name ?? method.name
    const hidden = method.causes.some(
      ({ code, setting }) => code === 'hidden_by_rule' && setting?.id === rule,
    )
    const steps = method.reckoning.filter(({ step, setting }) => step === 'rules' && setting?.id === rule)
    return [
      ...steps.filter(changes).map((step) => stepWords(name, step, formats)),
      ...(hidden ? [`hides ${name}`] : []),
    ]
  })
}
