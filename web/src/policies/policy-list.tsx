import type { ReactNode } from 'react'
import { useLocation, useNavigate } from 'react-router'
import type { Finding } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { awake } from '../setup/queries'
import { useActs } from '../edits/acts'
import { findingSentence } from '../words/findings'
import { formatsOf } from '../ui/format'
import { Movers } from '../ui/row-buttons'
import { Button } from '../ui/button'
import { Finder, useFinder } from '../ui/finder'
import { Sorted, useSortedRow } from '../ui/sorted'
import { Badge, Doubt } from '../ui/said'

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
interface Props<Kind extends Item> {
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
}

export function PolicyList<Kind extends Item>(props: Props<Kind>) {
  const { label, kind, items } = props
  const acts = useActs()
  const finder = useFinder()
  const move = (id: string, name: string, by: number) => acts.move(kind, id, name, by)
  const found = items.filter(
    (item) => item.id === props.opened || finder.finds(`${item.name} ${props.sentence(item)}`),
  )
  return (
    <>
      <Finder
        of={finder}
        label={`Find in the ${kind}`}
        placeholder="find by any word"
        className="mb-1.5 w-64"
        count={items.length}
      />
      <Sorted items={items} move={move}>
        <ol aria-label={label}>
          {found.map((item) => (
            <Row key={item.id} {...props} item={item} at={items.indexOf(item)} move={move} />
          ))}
        </ol>
      </Sorted>
      {found.length === 0 && items.length > 0 && <p className="text-soft">No words like these.</p>}
    </>
  )
}

function Row<Kind extends Item>({
  item,
  at,
  move,
  items,
  opened,
  open,
  findings,
  sentence,
  stand,
  editor,
}: Props<Kind> & { item: Kind; at: number; move: (id: string, name: string, by: number) => void }) {
  const { setup } = useWorkshop()
  const { row, grip } = useSortedRow(item)
  const isOpen = opened === item.id
  const about = awake(findings).filter(({ setting }) => setting?.id === item.id)
  return (
    <li
      {...row}
      className={`border-t border-l-4 border-t-hair ${isOpen ? 'border-l-ink bg-white' : 'border-l-transparent bg-paper'}`}
    >
      <div className="flex items-start gap-2 py-2 pl-1">
        {grip}
        <span className="w-5 pt-1 text-right font-cond text-soft">{at + 1}</span>
        <div className="min-w-0 flex-1 pt-0.5">
          <Button look="opens" aria-expanded={isOpen} onClick={() => open(isOpen ? null : item.id)}>
            {item.name}
          </Button>
          {!item.active && (
            <span className="ml-2">
              <Badge>off</Badge>
            </span>
          )}
          {!isOpen && <p className={item.active ? '' : 'text-soft'}>{sentence(item)}</p>}
          <p className="text-soft">{stand(item)}</p>
          {about.map((finding) => (
            <Doubt key={finding.key}>{findingSentence(finding, setup, formatsOf(setup.store)).text}</Doubt>
          ))}
        </div>
        <span className="flex">
          <Movers
            name={item.name ?? ''}
            at={at}
            of={items.length}
            move={(by) => move(item.id, item.name ?? '', by)}
          />
        </span>
      </div>
      {isOpen && editor(item)}
    </li>
  )
}
