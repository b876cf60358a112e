import { withOnly } from '../api/shapes'
import type { Schemas } from '../api/client'
import { Select } from '../ui/select'

/** What counts as a plan’s order value, where it is not as the shop says. */
export function BasisChoice({
  basis,
  put,
}: {
  basis: Schemas['Basis'] | undefined
  put: (basis: Schemas['Basis'] | undefined) => void
}) {
  const choice = (field: 'discounts' | 'tax', options: [string, string][]) => (
    <Select
      label={`Value ${field}`}
      value={basis?.[field] ?? ''}
      choices={[['', `${field === 'tax' ? 'Tax' : 'Discounts'}: shop default`], ...options]}
      choose={(value) => {
        const next = { ...basis, [field]: value || undefined }
        const kept = withOnly(next, Boolean)
        put(Object.keys(kept).length ? kept : undefined)
      }}
    />
  )
  return (
    <span className="flex flex-wrap items-center gap-2">
      <span className="font-cond text-soft">Order value is counted</span>
      {choice('discounts', [
        ['after', 'After discounts'],
        ['before', 'Before discounts'],
      ])}
      {choice('tax', [
        ['with', 'With tax'],
        ['without', 'Without tax'],
      ])}
    </span>
  )
}
