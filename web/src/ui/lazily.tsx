import { lazy, Suspense, useState, type ComponentType, type ReactNode } from 'react'

/** A component that is fetched when it is first wanted, or prepared before; what is there is drawn at once. */
export function lazily<Props extends object>(load: () => Promise<ComponentType<Props>>) {
  let found: ComponentType<Props> | null = null
  const fetched = async () => (found = await load())
  const Waiting = lazy(async () => ({ default: (await fetched()) as ComponentType<object> }))
  function Lazily({ meanwhile, ...props }: Props & { meanwhile?: ReactNode }) {
    // As it began, so it stays: to change over would begin it anew, without what is being typed.
    const [Found] = useState(() => found)
    if (Found) return <Found {...(props as Props)} />
    return (
      <Suspense fallback={meanwhile ?? null}>
        <Waiting {...props} />
      </Suspense>
    )
  }
  /** Fetches it quietly: what cannot be fetched now is fetched when it is wanted. */
  Lazily.prepare = () => void fetched().catch(() => undefined)
  return Lazily
}
