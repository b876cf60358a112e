import type { ComponentProps } from 'react'

/**
 * A table that is as wide as the page, and scrolls in itself where the page is too narrow for it.
 * @param sticky its head stays in sight while the page scrolls, where the page is wide
 * @param bare only the table, where nothing of it is seen
 */
export function Table({
  className = 'w-full',
  sticky = false,
  bare = false,
  ...rest
}: ComponentProps<'table'> & { sticky?: boolean; bare?: boolean }) {
  const table = <table {...rest} className={`border-collapse ${className}`} />
  if (bare) return table
  return <div className={`relative ${sticky ? 'max-lg:overflow-x-auto' : 'overflow-x-auto'}`}>{table}</div>
}
