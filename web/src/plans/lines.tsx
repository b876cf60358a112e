import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { api, answerOf, type Schemas } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { documentOf, momentOf, useBenchCart } from '../cart/cart'
import { nameOfPreview, useBenchResult, usePreview } from '../cart/result'
import { useSettled } from '../ui/use-settled'
import type { MeasureName } from './axis'

export type Piece = Schemas['Piece']

/** The exact price of every rate along a measure of the bench cart, with what is being typed. */
export function useLines(
  measure: MeasureName,
  most: string,
  line: number,
): Record<string, Piece[]> | undefined {
  const { cart } = useBenchCart()
  const { bench } = useBenchResult()
  const { preview, previewProblem } = usePreview()
  const { setup } = useWorkshop()
  const typed = previewProblem ? null : preview
  const shared = { cart: documentOf(cart), at: momentOf(cart), measure, most, line }
  const whole = { ...shared, preview: typed && !('rate' in typed) ? typed : null }
  const { data: first } = useAnswer(whole)
  const stored = useRest(whole, first)
  // A plan being typed changes its own line only.
  const { data: own } = useAnswer(
    typed && 'rate' in typed ? { ...shared, preview: typed, rates: [typed.rate] } : null,
  )
  // Live rates of the cart's zone are sampled, once the cart has stayed as it is for a moment: that is many questions.
  const zone = bench?.quote.landing?.zone
  const asked = setup.rates.filter((rate) => rate.live && rate.zone === zone).map(({ id }) => id)
  const settled = useSettled(JSON.stringify([setup.revision, shared, asked]), 800)
  const { data: sampled } = useAnswer(
    asked.length && !typed ? { ...shared, rates: asked, live: true } : null,
    settled,
  )
  return useMemo(() => {
    const line = typed && 'rate' in typed ? own?.lines[typed.rate] : undefined
    if (stored && line && typed && 'rate' in typed) return { ...stored.lines, [typed.rate]: line }
    return stored && sampled && !typed ? { ...stored.lines, ...sampled.lines } : stored?.lines
  }, [stored, sampled, own, typed])
}

/** Lines for which there was no time are asked for by themselves, as long as some of them come. */
function useRest(
  body: Schemas['PriceLinesRequest'],
  first: Schemas['PriceLines'] | undefined,
): Schemas['PriceLines'] | undefined {
  const { setup } = useWorkshop()
  const left = unlooked(first)
  const { data: rest } = useQuery({
    queryKey: ['lines', 'rest', setup.revision, keyOf(body), left],
    queryFn: async ({ signal }) => {
      const found: Schemas['PriceLines']['lines'] = {}
      let open = left
      while (open.length > 0) {
        const answer = await answerOf(api.POST('/api/lines', { body: { ...body, rates: open }, signal }))
        Object.assign(found, answer.lines)
        const still = unlooked(answer)
        if (still.length === open.length) break
        open = still
      }
      return found
    },
    enabled: left.length > 0,
    retry: false,
  })
  return useMemo(
    () => (first && rest ? { ...first, lines: { ...first.lines, ...rest } } : first),
    [first, rest],
  )
}

/** The question, with a name for what is being typed. */
const keyOf = (body: Schemas['PriceLinesRequest'] | null) =>
  body && { ...body, preview: nameOfPreview(body.preview ?? null) }

const unlooked = (answer: Schemas['PriceLines'] | undefined) =>
  Object.keys(answer?.lines ?? {}).filter((rate) => answer?.lines[rate]?.[0]?.status === 'unlooked')

function useAnswer(body: Schemas['PriceLinesRequest'] | null, ready = true) {
  const { setup } = useWorkshop()
  return useQuery({
    queryKey: ['lines', setup.revision, keyOf(body)],
    queryFn: ({ signal }) => answerOf(api.POST('/api/lines', { body: body!, signal })),
    placeholderData: keepPreviousData,
    enabled: ready && body !== null && body.cart.lines.length > 0,
    retry: false,
  })
}

/** The position of a piece's end as a number of the axis. */
export const at = (text: string) => parseFloat(text)
