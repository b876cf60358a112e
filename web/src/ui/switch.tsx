import { Switch as Radix } from 'radix-ui'

/** On or off, said in words beside the knob: colour is never the only sign. */
export function Switch({ label, on, change }: { label: string; on: boolean; change: (on: boolean) => void }) {
  return (
    <label className="inline-flex min-h-8 items-center gap-2">
      <Radix.Root
        checked={on}
        onCheckedChange={change}
        aria-label={label}
        className="relative h-5 w-9 rounded-full border border-edge bg-white data-[state=checked]:bg-ink"
      >
        <Radix.Thumb className="block size-3.5 translate-x-0.5 rounded-full bg-edge data-[state=checked]:translate-x-4 data-[state=checked]:bg-white" />
      </Radix.Root>
      <span>{on ? 'On' : 'Off'}</span>
    </label>
  )
}
