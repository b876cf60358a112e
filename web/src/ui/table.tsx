import type { ReactNode } from 'react'

/**
 * A table that is as wide as the page, and scrolls in itself where the page is too narrow for it.
 * @param sticky its head stays in sight while the page scrolls, where the page is wide
 */
export function Table({
  className = 'w-full',
  sticky = false,
  children,
}: {
  className?: string
  sticky?: boolean
  children: ReactNode
}) {
  return (
    <div className={`relative ${sticky ? 'max-lg:overflow-x-auto' : 'overflow-x-auto'}`}>
      <table className={`border-collapse ${className}`}>{children}</table>
    </div>
  )
}
