import { isZero, type Formats } from './format'

/** One price as the shopper would see it; free is the only thing in lime. */
export function Price({ amount, formats, large }: { amount: string; formats: Formats; large?: boolean }) {
  const size = large ? 'text-lg' : ''
  if (isZero(amount))
    return <span className={`bg-lime px-1.5 font-cond font-semibold ${size}`}>{formats.price(amount)}</span>
  return <span className={`font-cond font-semibold ${size}`}>{formats.money(amount)}</span>
}

/** What stood there before the merchant's edit, with an arrow. Never dressed as a sale price: nothing is struck out. */
export function Before({ amount, formats }: { amount: string | null | undefined; formats: Formats }) {
  if (amount === undefined) return null
  return (
    <span className="font-cond text-soft" data-tip="Before your edit">
      <span className="sr-only">before your edit </span>
      {amount === null ? 'none' : formats.price(amount)}
      <span aria-hidden> → </span>
      <span className="sr-only">, now </span>
    </span>
  )
}
