import { NavLink, Outlet } from 'react-router'
import { useFindings, useWorkshop } from '../api/setup'
import type { Finding } from '../api/client'

const PARTS = [
  { path: '/goods', name: 'Catalogue' },
  { path: '/goods/classes', name: 'Classes' },
  { path: '/goods/treatments', name: 'Treatments' },
  { path: '/goods/csv', name: 'CSV' },
  { path: '/goods/findings', name: 'Findings' },
] as const

const CODES: Finding['code'][] = [
  'no_way',
  'own_price_barred',
  'treatment_never',
  'no_weight',
  'no_class',
  'empty_class',
]

/** What the audit found about goods, classes and treatments. */
export function useGoodsFindings(): Finding[] {
  const { setup } = useWorkshop()
  const { data } = useFindings(setup.revision)
  return (data?.findings ?? []).filter((finding) => CODES.includes(finding.code))
}

/** What the shop ships: the catalogue, its classes, and how some goods leave the ordinary rates. */
export function Goods() {
  const findings = useGoodsFindings()
  return (
    <div className="flex min-h-full flex-col px-4 pt-3 pb-4 lg:h-full">
      <header className="mb-2 flex flex-wrap items-baseline gap-x-5">
        <h1 className="text-2xl">Goods</h1>
        <nav aria-label="Parts of goods" className="flex flex-wrap gap-x-1">
          {PARTS.map(({ path, name }) => (
            <NavLink
              key={path}
              to={path}
              end
              className={({ isActive }) =>
                `border-b-2 px-2 py-0.5 font-cond text-base ${isActive ? 'border-ink font-semibold' : 'border-transparent text-soft hover:text-ink'}`
              }
            >
              {name}
              {name === 'Findings' && findings.length > 0 && `: ${findings.length}`}
            </NavLink>
          ))}
        </nav>
      </header>
      <Outlet />
    </div>
  )
}
