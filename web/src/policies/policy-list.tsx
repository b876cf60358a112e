import type { ReactNode } from 'react'
import { useLocation, useNavigate } from 'react-router'
import type { Finding } from '../api/client'
import { awake, useWorkshop } from '../api/setup'
import { useActs } from '../edits/acts'
import { findingSentence } from '../zones/words'
import { formatsOf } from '../ui/format'
import { Movers } from '../ui/row-buttons'
import { Button } from '../ui/button'

interface Item {
  id: string
  name?: string
  active?: boolean
}

/** Which item of a list is open: it stands in the page's address. */
export function useOpened(path: string, key: string) {
  const { hash } = useLocation()
  const navigate = useNavigate()
  const opened = new URLSearchParams(hash.slice(1)).get(key)
  return {
    opened,
    open: (id: string | null) =>
      void navigate(id ? `${path}#${key}=${encodeURIComponent(id)}` : path, { replace: true }),
  }
}

/** A list whose order counts: offers, rules. One of them can be open, to be edited in place. */
export function PolicyList<Kind extends Item>({
  label,
  kind,
  items,
  opened,
  open,
  findings,
  sentence,
  stand,
  editor,
}: {
  label: string
  kind: 'offers' | 'rules'
  items: Kind[]
  opened: string | null
  open: (id: string | null) => void
  findings: Finding[]
  sentence: (item: Kind) => string
  /** What it does to the bench cart now. */
  stand: (item: Kind) => ReactNode
  editor: (item: Kind) => ReactNode
}) {
  const { setup } = useWorkshop()
  const acts = useActs()
  return (
    <ol aria-label={label}>
      {items.map((item, at) => {
        const isOpen = opened === item.id
        const about = awake(findings).filter(({ setting }) => setting?.id === item.id)
        return (
          <li
            key={item.id}
            className={`border-t border-l-4 border-t-hair ${isOpen ? 'border-l-ink bg-white' : 'border-l-transparent'}`}
          >
            <div className="flex items-start gap-3 py-2 pl-2">
              <span className="w-5 pt-0.5 text-right font-cond text-soft">{at + 1}</span>
              <div className="min-w-0 flex-1">
                <Button
                  look="bare"
                  className="rounded-xs text-left font-medium break-words hover:underline"
                  aria-expanded={isOpen}
                  onClick={() => open(isOpen ? null : item.id)}
                >
                  {item.name}
                </Button>
                {!item.active && (
                  <span className="ml-2 border border-edge px-1.5 text-xs font-semibold">off</span>
                )}
                {!isOpen && <p className={item.active ? '' : 'text-soft'}>{sentence(item)}</p>}
                <p className="text-soft">{stand(item)}</p>
                {about.map((finding) => (
                  <p key={finding.key} className="text-ochre">
                    <span aria-hidden>△ </span>
                    {findingSentence(finding, setup, undefined, formatsOf(setup.store!)).text}
                  </p>
                ))}
              </div>
              <span className="flex">
                <Movers
                  name={item.name ?? ''}
                  at={at}
                  of={items.length}
                  move={(by) => acts.move(kind, item.id, item.name ?? '', by)}
                />
              </span>
            </div>
            {isOpen && editor(item)}
          </li>
        )
      })}
    </ol>
  )
}
