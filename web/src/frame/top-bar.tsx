import { Menu, Search } from 'lucide-react'
import type { ReactNode } from 'react'
import { Link, NavLink, useLocation } from 'react-router'
import { useWorkshop } from '../edits/workshop'
import { awake, useFindings } from '../setup/queries'
import { grouped } from '../findings/groups'
import { count } from '../ui/locale'
import { NotStored } from '../edits/not-stored'
import { PersonMenu } from '../people/person-menu'
import { Pop } from '../ui/pop'
import { proofCounts, useProofState } from '../proofs/use-proofs'
import { draftWords, useReleaseState } from '../releases/use-releases'
import { pageAt, PAGES, prepare, SECTIONS } from '../pages/pages'
import { HistoryButtons } from './history-buttons'
import { Button } from '../ui/button'
import { Wordmark } from '../ui/wordmark'

export function TopBar({ palette, help }: { palette: () => void; help: () => void }) {
  const { setup } = useWorkshop()
  return (
    <header className="print:hidden flex min-h-[46px] shrink-0 flex-wrap items-stretch gap-x-3 border-b border-ink px-3 lg:flex-nowrap lg:px-4">
      <Link to="/" className="flex items-center max-sm:sr-only" aria-label="Gate Mile, to the Board">
        <Wordmark />
      </Link>
      <SectionMenu />
      <nav aria-label="Sections" className="flex items-stretch max-lg:hidden">
        {SECTIONS.map((page) => (
          <NavLink
            key={page.at}
            to={page.at}
            end={page.at === '/'}
            onPointerEnter={() => prepare(page)}
            onFocus={() => prepare(page)}
            className={({ isActive }) =>
              `flex items-center border-b-4 px-2 font-cond min-[1400px]:px-2.5 text-base ${isActive ? 'border-ink font-semibold' : 'border-transparent text-soft hover:text-ink'}`
            }
          >
            {TOLD[page.at]?.() ?? page.name}
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
          {pageAt(pathname).name}
          <span className="sr-only">: other sections</span>
        </>
      }
      align="start"
      contentClass="min-w-52 border border-ink bg-white py-1"
    >
      {(close) => (
        <nav aria-label="Sections">
          {PAGES.map(({ at, name, apart }) => (
            <NavLink
              key={at}
              to={at}
              end={at === '/'}
              className="block px-4 py-2.5 aria-[current=page]:font-semibold aria-[current=page]:underline"
              onClick={close}
            >
              {(apart && setup.store?.name) || name}
            </NavLink>
          ))}
        </nav>
      )}
    </Pop>
  )
}
