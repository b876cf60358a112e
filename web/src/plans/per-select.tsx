type Per = 'order' | 'unit' | 'parcel'

/** What a fixed amount is charged for. */
export function PerSelect({
  label,
  per,
  put,
}: {
  label?: string
  per: Per | undefined
  put: (per: Per) => void
}) {
  return (
    <select
      className="field font-sans"
      aria-label={label}
      value={per ?? 'order'}
      onChange={(event) => put(event.target.value as Per)}
    >
      <option value="order">order</option>
      <option value="unit">unit</option>
      <option value="parcel">parcel</option>
    </select>
  )
}
