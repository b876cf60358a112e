import { byId } from '../api/by-id'
import { Link } from 'react-router'
import type { MethodQuote, Quote } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useAllReckonings, useBenchResult } from '../cart/result'
import { toldCauses } from '../words/reckoning'
import { formatsOf, type Formats } from '../ui/format'
import { counted } from '../ui/locale'
import { Price } from '../ui/price'
import { Table } from '../ui/table'

interface Row {
  title: string
  text: string
  /** Where it is set. */
  link: string
  cell: (method: MethodQuote) => React.ReactNode
}

/** Section by section how a price comes about, with the bench cart's figures at each step. */
export function OrderPage() {
  const { setup } = useWorkshop()
  const { bench } = useBenchResult()
  useAllReckonings()
  const formats = formatsOf(setup.store)
  // A price without its steps: they are being worked out.
  const worked = bench?.quote.methods.every(({ price, reckoning }) => price === null || reckoning.length > 0)
  if (!bench || !worked) return <p className="text-soft">Pricing the cart …</p>
  const { quote } = bench
  if (!quote.methods.length)
    return (
      <p>Put goods on the bench, and an address where a zone has methods: their figures stand here then.</p>
    )
  return (
    <div className="relative overflow-x-auto pb-8">
      <p className="mb-2 max-w-3xl text-soft">
        Every price is made in this order. A method that falls out in one of the first three steps stays out:
        nothing later brings it back, and no step leaves less than nothing. The figures are the bench cart’s.
      </p>
      <Table className="w-full">
        <thead>
          <tr className="text-left align-bottom">
            <th className="w-64 py-1 pr-3 font-cond font-medium text-soft">Step</th>
            {quote.methods.map((method) => (
              <th key={method.rate} className="px-2 py-1 text-right font-medium">
                {byId(setup.methods, method.method)?.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows(quote, formats).map((row, at) => (
            <tr key={row.title} className="border-t border-hair align-top">
              <th scope="row" className="py-2 pr-3 text-left font-normal">
                <Link to={row.link} className="opens">
                  {at + 1}. {row.title}
                </Link>
                <span className="block text-xs text-soft">{row.text}</span>
              </th>
              {quote.methods.map((method) => (
                <td key={method.rate} className="px-2 py-2 text-right">
                  {row.cell(method)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  )
}

function rows(quote: Quote, formats: Formats): Row[] {
  const of = (method: MethodQuote, step: string) => method.reckoning.filter((one) => one.step === step)
  const lastAmount = (method: MethodQuote, step: string) =>
    of(method, step).findLast(({ amount }) => amount !== null)?.amount
  const out = <span className="text-soft">out</span>
  const none = <span className="text-soft">–</span>
  const fellEarly = (method: MethodQuote) => method.price === null && !of(method, 'price').length
  const shipping = quote.lines.filter(({ ships }) => ships).length
  return [
    {
      title: 'Restrictions',
      text: 'May every line travel by it?',
      link: '/goods/treatments',
      cell: (method) =>
        fellEarly(method) ? (
          <span className="text-xs">
            {toldCauses(method.causes, formats)
              .map(({ text }) => text)
              .join(' ')}
          </span>
        ) : (
          'all may'
        ),
    },
    {
      title: 'Ordinary or treated',
      text: 'Lines that the rate prices, and lines with a price of their own.',
      link: '/goods/treatments',
      cell: (method) => {
        const step = method.reckoning.find((step) => step.code === 'lines.ordinary')
        if (!of(method, 'lines').length) return out
        return step
          ? `${step.numbers.lines} ordinary${step.numbers.apart ? `, ${step.numbers.apart} apart` : ''}`
          : `${counted(shipping, 'line')} apart`
      },
    },
    {
      title: 'Ordinary part',
      text: 'The rate’s plan, or the carrier’s answer that counts: with handling or markup, minimum, maximum and ending.',
      link: '/rates',
      cell: (method) => {
        const amount = lastAmount(method, 'ordinary')
        if (amount) return formats.money(amount)
        return fellEarly(method) ? out : none
      },
    },
    {
      title: 'Treated part',
      text: 'Own prices, and fees on top.',
      link: '/goods/treatments',
      cell: (method) => {
        const steps = of(method, 'treated')
        if (fellEarly(method)) return out
        return steps.length
          ? steps.map(({ amount }, at) => (
              <span key={at} className="block">
                {formats.money(amount ?? '0')}
              </span>
            ))
          : none
      },
    },
    {
      title: 'Offers',
      text: 'What the best of the reached ones take off.',
      link: '/offers',
      cell: (method) => {
        const acted = method.reckoning.filter((step) => step.code === 'offer.acted')
        if (fellEarly(method)) return out
        return acted.length
          ? acted.map((step, at) => (
              <span key={at} className="block">
                −{formats.money(step.amount ?? '0')}
                <span className="block text-xs text-soft">{step.numbers.offer}</span>
              </span>
            ))
          : none
      },
    },
    {
      title: 'Price',
      text: 'Ordinary and treated part together.',
      link: '/',
      cell: (method) => {
        const amount = lastAmount(method, 'price')
        return amount ? <Price amount={amount} formats={formats} /> : out
      },
    },
    {
      title: 'Rules',
      text: 'From top to bottom, on that price.',
      link: '/rules',
      cell: (method) => {
        if (fellEarly(method)) return out
        const steps = of(method, 'rules')
        const hidden = method.causes.filter(({ code }) => code === 'hidden_by_rule')
        if (hidden.length)
          return (
            <span className="text-xs">
              {toldCauses(hidden, formats)
                .map(({ text }) => text)
                .join(' ')}
            </span>
          )
        return steps.length
          ? steps.map((step, at) => (
              <span key={at} className="block">
                {step.amount !== null ? `→ ${formats.price(step.amount)}` : ''}
                <span className="block text-xs text-soft">{'rule' in step.numbers && step.numbers.rule}</span>
              </span>
            ))
          : none
      },
    },
    {
      title: 'Finish',
      text: 'Hidden by an offer, named, put in order.',
      link: '/methods',
      cell: (method) => {
        if (method.price === null) return out
        return (
          <>
            <Price amount={method.price} formats={formats} />
            <span className="block text-xs text-soft">{[method.name, ...method.marks].join(', ')}</span>
          </>
        )
      },
    },
  ]
}
