import { useEffect, useRef, useSyncExternalStore, type ReactNode, type RefObject } from 'react'

/** Milliseconds: announcements within the first are read out together; after the second they have been read. */
const GATHERED = 120
const OVER = 1500

/** Announcements for people who can't see the page: errors at once, the rest when there is time. */
class Voice {
  said = ''
  private coming: string[] = []
  private over: ReturnType<typeof setTimeout> | undefined
  private readonly listeners = new Set<() => void>()
  private readonly together: (texts: string[]) => string

  constructor(together: (texts: string[]) => string) {
    this.together = together
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  tell(text: string) {
    if (!text) return
    if (this.coming.length === 0) setTimeout(() => this.say(), GATHERED)
    this.coming.push(text)
  }

  private say() {
    this.put(this.together([...new Set(this.coming.splice(0))]))
    clearTimeout(this.over)
    // The same once more is news as well.
    this.over = setTimeout(() => this.put(''), OVER)
  }

  private put(text: string) {
    this.said = text
    for (const listener of this.listeners) listener()
  }
}

const faults = new Voice((texts) =>
  texts.length > 1 ? `${texts.length} faults. ${texts.join(' ')}` : (texts[0] ?? ''),
)
const news = new Voice((texts) => texts.join(' '))

/** Says how something stands, when there is time. */
export const sayNews = (text: string) => news.tell(text)

function useTold(voice: Voice | null, element: RefObject<HTMLElement | null>) {
  const last = useRef('')
  useEffect(() => {
    const text = element.current?.textContent?.trim() ?? ''
    if (text !== last.current) voice?.tell(text)
    last.current = text
  })
}

/** An error, announced when it appears and when its text changes. Errors that appear together are announced together. */
export function Fault({ children, className }: { children: ReactNode; className?: string }) {
  const element = useRef<HTMLSpanElement>(null)
  useTold(faults, element)
  return (
    <span ref={element} className={className}>
      {children}
    </span>
  )
}

/** Announces an element's text in the same way, if it is to be announced at all. */
export function useFault(element: RefObject<HTMLElement | null>, told: boolean) {
  useTold(told ? faults : null, element)
}

/** Progress or a result, which screen readers announce when idle. For a long result, wrap only its first sentence. */
export function Status({
  children,
  className,
  as: Tag = 'p',
}: {
  children: ReactNode
  className?: string
  as?: 'p' | 'span'
}) {
  const element = useRef<HTMLElement | null>(null)
  useTold(news, element)
  return (
    <Tag ref={(node) => void (element.current = node)} className={className}>
      {children}
    </Tag>
  )
}

/** Where it is said: there before anything is, so that screen readers listen to it (WCAG 2.2, 4.1.3). */
export function Voices() {
  const fault = useSyncExternalStore(faults.subscribe, () => faults.said)
  const status = useSyncExternalStore(news.subscribe, () => news.said)
  return (
    <>
      <p role="alert" className="sr-only">
        {fault}
      </p>
      <p role="status" className="sr-only">
        {status}
      </p>
    </>
  )
}
