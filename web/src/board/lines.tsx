import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { call, type Schemas } from '../api/client'
import { useWorkshop } from '../api/setup'
import { documentOf, useBenchCart } from '../bench/cart'
import { useBenchResult } from '../bench/result'
import type { MeasureName } from './axis'

export type Piece = Schemas['Piece']

/** The exact price of every rate along a measure of the bench cart, with what is being typed. */
export function useLines(
  measure: MeasureName,
  most: string,
  line: number,
): Record<string, Piece[]> | undefined {
  const { setup } = useWorkshop()
  const { cart } = useBenchCart()
  const { preview, previewProblem } = useBenchResult()
  const body: Schemas['PriceLinesRequest'] = {
    cart: documentOf(cart),
    measure,
    most,
    line,
    preview: previewProblem ? null : preview,
  }
  const { data } = useQuery({
    queryKey: ['lines', setup.revision, body],
    queryFn: ({ signal }) => call<Schemas['PriceLines']>('POST', '/api/lines', body, signal),
    placeholderData: keepPreviousData,
    enabled: cart.lines.length > 0,
    retry: false,
  })
  return data?.lines
}

/** The position of a piece's end as a number of the axis. */
export const at = (text: string) => parseFloat(text)
