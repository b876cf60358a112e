import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { api, answerOf } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import type { Group, Prices } from './class-groups'

/** What each class's goods cost by each rate, at some numbers of units. */
export interface Figures {
  units: readonly number[]
  /** The product that stands for a class, or that there is none; nothing until that is known. */
  example: (group: Group) => string | undefined
  of: (rate: string, group: Group) => Prices | undefined
  /** The highest price of all. */
  dearest: number
}

export function useFigures(): Figures {
  const { setup } = useWorkshop()
  const { data } = useQuery({
    queryKey: ['class-prices', setup.revision],
    queryFn: ({ signal }) => answerOf(api.GET('/api/class-prices', { signal })),
    placeholderData: keepPreviousData,
  })
  return useMemo(() => {
    const places = new Map(data?.examples.map((example, at) => [example.class, at]))
    const rates = new Map(data?.rates.map(({ rate, prices }) => [rate, prices]))
    const at = (group: Group) => places.get(group) ?? -1
    return {
      units: data?.units ?? [1, 2, 5],
      example: (group) => data && (data.examples[at(group)]?.name ?? 'no goods'),
      of: (rate, group) => rates.get(rate)?.[at(group)],
      dearest: [...rates.values()].flat(2).reduce((most, { price }) => Math.max(most, Number(price ?? 0)), 0),
    }
  }, [data])
}
