import { Slider as Radix } from 'radix-ui'

/** A whole number from 1 to `of`, by dragging or with the arrows. */
export function Slider({
  label,
  at,
  of,
  move,
}: {
  label: string
  at: number
  of: number
  move: (to: number) => void
}) {
  return (
    <Radix.Root
      className="relative flex h-7 w-full touch-none items-center"
      min={1}
      max={of}
      value={[at]}
      onValueChange={([to]) => move(to!)}
    >
      <Radix.Track className="relative h-1 grow rounded-full bg-edge">
        <Radix.Range className="absolute h-full rounded-full bg-ink" />
      </Radix.Track>
      <Radix.Thumb aria-label={label} className="block size-7 rounded-full border border-ink bg-white" />
    </Radix.Root>
  )
}
