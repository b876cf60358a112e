import { Menu, Search } from 'lucide-react'
import type { ReactNode } from 'react'
import { Link, NavLink, useLocation } from 'react-router'
import { awake, useFindings, useWorkshop } from '../api/setup'
import { grouped } from '../findings/groups'
import { count } from '../ui/locale'
import { NotStored } from '../edits/not-stored'
import { PersonMenu } from '../people/person-menu'
import { Pop } from '../ui/pop'
import { proofCounts, useProofState } from '../proofs/use-proofs'
import { draftWords, useReleaseState } from '../releases/use-releases'
import { prepare } from './loads'
import { HistoryButtons } from './history-buttons'
import { Button } from '../ui/button'

export const SECTIONS = [
  { path: '/', name: 'Board' },
  { path: '/zones', name: 'Zones' },
  { path: '/goods', name: 'Goods' },
  { path: '/rates', name: 'Rates' },
  { path: '/methods', name: 'Methods' },
  { path: '/offers', name: 'Offers' },
  { path: '/rules', name: 'Rules' },
  { path: '/carriers', name: 'Carriers' },
  { path: '/proofs', name: 'Proofs' },
  { path: '/findings', name: 'Findings' },
  { path: '/release', name: 'Release' },
  { path: '/orders', name: 'Orders' },
  { path: '/turned-away', name: 'Turned away' },
] as const

/** The section that an address belongs to. */
export function sectionAt(path: string): string {
  if (path.startsWith('/shop')) return 'The shop'
  return SECTIONS.findLast((section) => path.startsWith(section.path))?.name ?? 'Board'
}

export function Wordmark() {
  return (
    <span className="inline-flex items-center gap-2 font-cond text-xl font-semibold whitespace-nowrap">
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
    <header className="print:hidden flex min-h-[46px] shrink-0 flex-wrap items-stretch gap-x-3 border-b border-ink px-3 lg:flex-nowrap lg:px-4">
      <Link to="/" className="flex items-center max-sm:sr-only" aria-label="Gate Mile, to the Board">
        <Wordmark />
      </Link>
      <SectionMenu />
      <nav aria-label="Sections" className="flex items-stretch max-lg:hidden">
        {SECTIONS.map(({ path, name }) => (
          <NavLink
            key={path}
            to={path}
            end={path === '/'}
            onPointerEnter={() => prepare(path)}
            onFocus={() => prepare(path)}
            className={({ isActive }) =>
              `flex items-center border-b-4 px-2 font-cond min-[1400px]:px-2.5 text-base ${isActive ? 'border-ink font-semibold' : 'border-transparent text-soft hover:text-ink'}`
            }
          >
            {TOLD[path]?.() ?? name}
          </NavLink>
        ))}
      </nav>
      <span className="ml-auto flex min-w-0 items-center gap-1.5">
        <NotStored />
        <HistoryButtons />
        <Button onClick={palette} data-tip="Find or do something (Ctrl+K, or /)">
          <Search size={13} aria-hidden /> <span className="max-lg:sr-only">Ctrl K</span>
          <span className="sr-only">: find or do something</span>
        </Button>
        <Button
          look="quiet"
          className="max-sm:hidden"
          onClick={help}
          aria-label="Keys and help"
          data-tip="Keys and help (?)"
        >
          ?
        </Button>
        <NavLink
          to="/shop"
          className={({ isActive }) =>
            `max-w-40 truncate font-cond max-lg:hidden ${isActive ? 'font-semibold underline' : 'hover:underline'}`
          }
        >
          {setup.store?.name}
        </NavLink>
        <PersonMenu />
      </span>
    </header>
  )
}

/** A section of which the bar tells how things stand. */
function Told({ name, said, bad }: { name: string; said: string; bad: boolean }) {
  if (!said) return name
  return (
    <span className="flex flex-col leading-tight">
      {name}
      <span className={`text-xs font-normal whitespace-nowrap ${bad ? 'text-brick' : 'text-soft'}`}>
        {said}
      </span>
    </span>
  )
}

function Proofs() {
  const { data } = useProofState()
  return <Told name="Proofs" said={data?.total ? proofCounts(data) : ''} bad={Boolean(data?.changed)} />
}

function Findings() {
  const { setup } = useWorkshop()
  const { data } = useFindings(setup.revision)
  const groups = grouped(awake(data?.findings)).filter(({ first }) => first.harm !== 'note')
  const bad = groups.some(({ first }) => first.harm === 'problem')
  return <Told name="Findings" said={groups.length ? `${count(groups.length)} to look at` : ''} bad={bad} />
}

function Release() {
  const { data } = useReleaseState()
  return <Told name="Release" said={data ? draftWords(data) : ''} bad={false} />
}

/** Sections of which the bar tells how they stand. */
const TOLD: Record<string, () => ReactNode> = {
  '/proofs': () => <Proofs />,
  '/findings': () => <Findings />,
  '/release': () => <Release />,
}

/** The sections where there is no room for them side by side. */
function SectionMenu() {
  const { setup } = useWorkshop()
  const { pathname } = useLocation()
  return (
    <Pop
      className="flex min-h-11 items-center gap-2 font-cond text-lg font-semibold lg:hidden"
      button={
        <>
          <Menu size={18} aria-hidden />
          {sectionAt(pathname)}
          <span className="sr-only">: other sections</span>
        </>
      }
      align="start"
      contentClass="min-w-52 border border-ink bg-white py-1"
    >
      {(close) => (
        <nav aria-label="Sections">
          {[...SECTIONS, { path: '/shop', name: setup.store?.name ?? 'The shop' }].map(({ path, name }) => (
            <NavLink
              key={path}
              to={path}
              end={path === '/'}
              className="block px-4 py-2.5 aria-[current=page]:font-semibold aria-[current=page]:underline"
              onClick={close}
            >
              {name}
            </NavLink>
          ))}
        </nav>
      )}
    </Pop>
  )
}
