import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, answerOf, type MethodQuote, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import type { Formats } from '../ui/format'
import { documentOf, momentOf, useBenchCart } from '../cart/cart'
import { useBenchResult, usePreview } from '../cart/result'

/** How many units more or fewer of a line change each price. */
export function useGates(): Schemas['NextGates']['gates'] {
  const { setup } = useWorkshop()
  const { cart } = useBenchCart()
  const { bench, error } = useBenchResult()
  const { preview } = usePreview()
  const body = documentOf(cart)
  const at = momentOf(cart)
  const { data } = useQuery({
    queryKey: ['gates', setup.revision, body, at],
    queryFn: ({ signal }) =>
      answerOf(api.POST('/api/gates', { params: { query: at ? { at } : {} }, body, signal })),
    enabled: bench?.quote.status === 'priced' && !error && !preview,
    placeholderData: keepPreviousData,
    retry: false,
  })
  return data?.gates ?? []
}

/** The next gate of one method in each direction: "1 more of these: £4.50 → free". */
export function NextGate({
  method,
  gates,
  formats,
}: {
  method: MethodQuote
  gates: Schemas['NextGates']['gates']
  formats: Formats
}) {
  const { bench } = useBenchResult()
  const own = gates.filter((gate) => gate.rate === method.rate && gate.price !== method.price)
  return own
    .sort((one, other) => other.by - one.by)
    .map((gate) => {
      const name = bench?.quote.lines[gate.line]?.name ?? 'the line'
      const units = Math.abs(gate.by)
      return (
        <span key={gate.by} className="block text-xs text-soft">
          {units} {gate.by > 0 ? 'more' : 'fewer'} {name}:{' '}
          <b className="text-ink">{gate.price === null ? 'not available' : formats.price(gate.price)}</b>
        </span>
      )
    })
}
