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
    <select
      className="field"
      aria-label={`Only of a ${what}`}
      value={chosen}
      onChange={(event) => choose(event.target.value)}
    >
      <option value="">every {what}</option>
      {items.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  )
}
