import { Popover } from 'radix-ui'
import type { PopProps } from './pop'

/** What a {@link Pop} becomes when it is first pressed. */
export function Popped({
  button,
  label,
  title,
  className,
  children,
  contentClass,
  side = 'bottom',
  align = 'end',
  offset = 6,
  inPlace = false,
  stays = false,
  open,
  setOpen,
}: PopProps & { open: boolean; setOpen: (open: boolean) => void }) {
  const content = (
    <Popover.Content
      side={side}
      align={align}
      sideOffset={offset}
      collisionPadding={8}
      className={`z-40 max-h-(--radix-popover-content-available-height) max-w-[94vw] overflow-y-auto outline-none ${contentClass}`}
      onInteractOutside={(event) => {
        if (stays && !(event.target instanceof Element && event.target.closest('[data-stays]')))
          event.preventDefault()
      }}
    >
      {children(() => setOpen(false))}
    </Popover.Content>
  )
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className={className}
        data-tip={title}
        aria-label={label}
        {...(stays ? { 'data-stays': '' } : {})}
      >
        {button}
      </Popover.Trigger>
      {inPlace ? content : <Popover.Portal>{content}</Popover.Portal>}
    </Popover.Root>
  )
}
