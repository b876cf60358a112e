import type { ReactNode } from 'react'

/** A part of an editor that is folded until it is wanted. */
export function Part({ title, open, children }: { title: string; open: boolean; children: ReactNode }) {
  return (
    <details open={open} className="border-t border-hair pt-1">
      <summary className="min-h-[24px] py-0.5 font-cond text-soft">{title}</summary>
      <div className="flex flex-col gap-2 py-1.5">{children}</div>
    </details>
  )
}
