import { keepPreviousData, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useState } from 'react'
import { api, answerOf, type Product, type Schemas } from '../api/client'
import type { Column } from './columns'

/** What the catalogue is asked for: words, filters, order. */
export interface Asked {
  q: string
  filter: string[]
  class: string
  tag: string
  treatment: string
  /** Nothing for the catalogue’s own order. */
  sort: '' | NonNullable<Column['sort']>
  descending: boolean
}

export const EVERYTHING: Asked = {
  q: '',
  filter: [],
  class: '',
  tag: '',
  treatment: '',
  sort: '',
  descending: false,
}

const PAGE = 100
type Page = Schemas['Products']

/** The same as a scope for an edit of many. */
export function scopeOf(asked: Asked): Schemas['GoodsScope'] {
  const { q, filter, class: shippingClass, tag, treatment } = asked
  return {
    ...(q ? { q } : {}),
    ...(filter.length ? { filter: filter.join(',') } : {}),
    ...(shippingClass ? { class: shippingClass } : {}),
    ...(tag ? { tag } : {}),
    ...(treatment ? { treatment } : {}),
  }
}

function queryOf(asked: Asked, limit: number, offset: number) {
  const { sort, descending } = asked
  const { ids: _, ...scope } = scopeOf(asked)
  return {
    ...scope,
    limit,
    offset,
    ...(sort ? { sort } : {}),
    ...(descending ? { descending } : {}),
  }
}

function pageQuery(asked: Asked, page: number) {
  return {
    queryKey: ['products', 'grid', asked, page],
    queryFn: ({ signal }: { signal: AbortSignal }) =>
      answerOf(api.GET('/api/products', { params: { query: queryOf(asked, PAGE, page * PAGE) }, signal })),
    staleTime: 30_000,
  }
}

/** The rows of the catalogue between two places, fetched page by page as they come into view. */
export function useRows(asked: Asked, from: number, to: number) {
  const client = useQueryClient()
  const first = Math.floor(from / PAGE)
  const count = Math.floor(Math.max(from, to) / PAGE) - first + 1
  const pages = useQueries({
    queries: Array.from({ length: count }, (_, index) => pageQuery(asked, first + index)),
  })
  const { data: counted, error } = useQuery({
    queryKey: ['products', 'count', asked],
    queryFn: ({ signal }) =>
      answerOf(api.GET('/api/products', { params: { query: queryOf(asked, 1, 0) }, signal })),
    placeholderData: keepPreviousData,
  })
  // Until the first rows of another order or another search are there, the ones before stay: a cell that somebody is
  // typing into must not disappear.
  const [shown, setShown] = useState(asked)
  if (shown !== asked && pages.some(({ data }) => data)) setShown(asked)
  const at = (index: number): Product | undefined => {
    const page = Math.floor(index / PAGE)
    const found =
      shown === asked ? pages[page - first]?.data : client.getQueryData<Page>(pageQuery(shown, page).queryKey)
    return found?.products[index % PAGE]
  }

  /** Rows that need not be in view, for what is pasted over them. */
  const fetchRows = useCallback(
    async (start: number, length: number): Promise<Product[]> => {
      const rows: Product[] = []
      for (let index = start; index < start + length;) {
        const page = await client.fetchQuery(pageQuery(asked, Math.floor(index / PAGE)))
        const found = page.products.slice(index % PAGE, (index % PAGE) + start + length - index)
        if (found.length === 0) break
        rows.push(...found)
        index += found.length
      }
      return rows
    },
    [client, asked],
  )

  /** Puts rows as they came back from an edit in the place of what is shown, before the pages are fetched again. */
  const take = useCallback(
    (rows: Product[]) => {
      const byId = new Map(rows.map((row) => [row.id, row]))
      client.setQueriesData<Page>(
        { queryKey: ['products', 'grid'] },
        (page) => page && { ...page, products: page.products.map((row) => byId.get(row.id) ?? row) },
      )
    },
    [client],
  )
  return { total: counted?.total, error, at, fetchRows, take }
}
