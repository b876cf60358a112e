import { NavLink, Outlet } from 'react-router'

interface Props {
  title: string
  parts: readonly { path: string; name: string; count?: number }[]
}

/** A section of one or several parts: its heading, the ways to them, and the part that is open. */
export function Section({ title, parts }: Props) {
  return (
    <div className="flex min-h-full flex-col px-4 pt-3 pb-4 lg:h-full">
      <header className="mb-2 flex flex-wrap items-baseline gap-x-5">
        <h1 className="text-2xl">{title}</h1>
        {parts.length > 0 && (
          <nav aria-label={`Parts of ${title.toLowerCase()}`} className="flex flex-wrap gap-x-1 print:hidden">
            {parts.map(({ path, name, count }) => (
              <NavLink
                key={path}
                to={path}
                end
                className={({ isActive }) =>
                  `border-b-2 px-2 py-0.5 font-cond text-base ${isActive ? 'border-ink font-semibold' : 'border-transparent text-soft hover:text-ink'}`
                }
              >
                {name}
                {count ? `: ${count}` : ''}
              </NavLink>
            ))}
          </nav>
        )}
      </header>
      <Outlet />
    </div>
  )
}
