import { Select } from './select'

interface Props {
  /** What it narrows to, for its label: "zone". */
  what: string
  items: { id?: string; name?: string }[]
  chosen: string
  choose: (id: string) => void
}

/** Narrows a list to what belongs to one thing. */
export function OnlyOf({ what, items, chosen, choose }: Props) {
  return (
    <Select
      label={`Only of a ${what}`}
      className="max-w-60"
      value={chosen}
      choices={[['', `every ${what}`], ...items.map(({ id, name }) => [id, name] as const)]}
      choose={choose}
    />
  )
}
