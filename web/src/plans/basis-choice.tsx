import type { Schemas } from '../api/client'

/** What counts as a plan’s order value, where it is not as the shop says. */
export function BasisChoice({
  basis,
  put,
}: {
  basis: Schemas['Basis'] | undefined
  put: (basis: Schemas['Basis'] | undefined) => void
}) {
  const choice = (field: 'discounts' | 'tax', options: [string, string][]) => (
    <select
      className="field"
      aria-label={`Value ${field}`}
      value={basis?.[field] ?? ''}
      onChange={(event) => {
        const next = { ...basis, [field]: event.target.value || undefined }
        const kept = Object.fromEntries(Object.entries(next).filter(([, value]) => value)) as Schemas['Basis']
        put(Object.keys(kept).length ? kept : undefined)
      }}
    >
      <option value="">as the shop’s</option>
      {options.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  )
  return (
    <span className="flex flex-wrap items-center gap-2">
      <span className="font-cond text-soft">The value counts</span>
      {choice('discounts', [
        ['after', 'after discounts'],
        ['before', 'before discounts'],
      ])}
      {choice('tax', [
        ['with', 'with tax'],
        ['without', 'without tax'],
      ])}
    </span>
  )
}
