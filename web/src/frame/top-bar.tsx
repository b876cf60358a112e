import { Search } from 'lucide-react'
import { Link, NavLink } from 'react-router'
import { useWorkshop } from '../api/setup'
import { HistoryButtons } from './history-buttons'

export const SECTIONS = [
  { path: '/', name: 'Board' },
  { path: '/zones', name: 'Zones' },
  { path: '/goods', name: 'Goods' },
  { path: '/rates', name: 'Rates' },
  { path: '/methods', name: 'Methods' },
  { path: '/offers', name: 'Offers' },
  { path: '/rules', name: 'Rules' },
  { path: '/carriers', name: 'Carriers' },
] as const

export function Wordmark() {
  return (
    <span className="inline-flex items-center gap-2 font-cond text-xl font-semibold">
      <svg aria-hidden viewBox="0 0 14 18" className="h-[18px]">
        <path d="M1 18V7a6 6 0 0 1 12 0v11z" fill="var(--color-ink)" />
        <path d="M4 10.5h6" stroke="var(--color-paper)" strokeWidth="2" />
      </svg>
      Gate Mile
    </span>
  )
}

export function TopBar({ palette, help }: { palette: () => void; help: () => void }) {
  const { setup } = useWorkshop()
  return (
    <header className="flex h-[46px] shrink-0 items-stretch gap-4 border-b border-ink px-4">
      <Link to="/" className="flex items-center" aria-label="Gate Mile, to the Board">
        <Wordmark />
      </Link>
      <nav aria-label="Sections" className="flex items-stretch">
        {SECTIONS.map(({ path, name }) => (
          <NavLink
            key={path}
            to={path}
            end={path === '/'}
            className={({ isActive }) =>
              `flex items-center border-b-4 px-3 font-cond text-base ${isActive ? 'border-ink font-semibold' : 'border-transparent text-soft hover:text-ink'}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <span className="ml-auto flex items-center gap-2">
        <HistoryButtons />
        <button
          type="button"
          className="button"
          onClick={palette}
          title="Find or do something (Ctrl+K, or /)"
        >
          <Search size={13} aria-hidden /> Ctrl K<span className="sr-only">: find or do something</span>
        </button>
        <button
          type="button"
          className="quiet"
          onClick={help}
          aria-label="Keys and help"
          title="Keys and help (?)"
        >
          ?
        </button>
        <NavLink
          to="/shop"
          className={({ isActive }) =>
            `max-w-48 truncate font-cond ${isActive ? 'font-semibold underline' : 'hover:underline'}`
          }
        >
          {setup.store?.name}
        </NavLink>
      </span>
    </header>
  )
}
