import { Tooltip } from 'radix-ui'
import { useEffect, useId } from 'react'
import type { Tip } from './tips'

/** A tip beside what it is about, which it describes as long as it is there. */
export default function TipShown({ target, text }: Tip) {
  const id = useId()
  useEffect(() => {
    if (target.ariaLabel === text || target.hasAttribute('aria-describedby')) return
    target.setAttribute('aria-describedby', id)
    return () => target.removeAttribute('aria-describedby')
  }, [target, text, id])
  const { left, top, width, height } = target.getBoundingClientRect()
  return (
    <Tooltip.Provider>
      <Tooltip.Root open>
        <Tooltip.Trigger asChild>
          <span aria-hidden className="pointer-events-none fixed" style={{ left, top, width, height }} />
        </Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            data-tip-shown
            sideOffset={4}
            collisionPadding={8}
            className="z-50 max-w-72 rounded-xs bg-ink px-2 py-1 text-sm break-words text-white"
          >
            <span id={id}>{text}</span>
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  )
}
