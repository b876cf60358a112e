import { Select } from '../ui/select'

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
    <Select
      label={label}
      value={per ?? 'order'}
      choices={[
        ['order', 'order'],
        ['unit', 'unit'],
        ['parcel', 'parcel'],
      ]}
      choose={put}
    />
  )
}
