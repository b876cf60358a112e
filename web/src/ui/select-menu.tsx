import { Command } from 'cmdk'
import { Check } from 'lucide-react'
import { Popover, Select } from 'radix-ui'
import { useState } from 'react'
import { contains } from './plain'
import type { MenuProps } from './select'

const BOX = 'z-50 overflow-hidden rounded-xs border border-ink bg-white shadow-md'
const ITEM = 'flex min-h-7 items-center gap-1.5 rounded-xs px-2 outline-none data-[disabled]:text-soft'

/** A list of a few values. */
export function ShortMenu({ label, value, choices, choose, open, setOpen, trigger }: MenuProps) {
  return (
    <Select.Root
      open={open}
      onOpenChange={setOpen}
      value={choices.some(({ key }) => key === value) ? value : ''}
      onValueChange={choose}
    >
      <Select.Trigger {...trigger} />
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={2}
          collisionPadding={8}
          className={`${BOX} max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) max-w-[94vw]`}
        >
          <Select.Viewport aria-label={label} className="p-0.5">
            {choices.map(({ key, words }) => (
              <Select.Item
                key={key}
                value={key}
                className={`${ITEM} data-[highlighted]:bg-lime data-[highlighted]:text-ink`}
              >
                <span className="w-3.5 shrink-0">
                  <Select.ItemIndicator>
                    <Check size={13} aria-hidden />
                  </Select.ItemIndicator>
                </span>
                <Select.ItemText>{words}</Select.ItemText>
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  )
}

/** A list of many values, which what is typed narrows: every word of it, in any order, without regard to accents. */
export function LongMenu({ label, value, choices, choose, open, setOpen, trigger }: MenuProps) {
  const [search, setSearch] = useState('')
  const found = choices.filter(({ words }) => contains(words, search))
  const [at, setAt] = useState(value)
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setSearch('')
        setAt(value)
        setOpen(next)
      }}
    >
      <Popover.Trigger {...trigger} />
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={2}
          collisionPadding={8}
          aria-label={label}
          className={`${BOX} flex max-h-[min(24rem,var(--radix-popover-content-available-height))] min-w-(--radix-popover-trigger-width) max-w-[94vw] flex-col`}
        >
          <Command
            label={label ?? ''}
            shouldFilter={false}
            value={found.some(({ key }) => key === at) ? at : (found[0]?.key ?? '')}
            onValueChange={setAt}
            className="flex min-h-0 flex-col"
          >
            <Command.Input
              value={search}
              onValueChange={setSearch}
              placeholder="Type to search"
              aria-label={label ? `Search: ${label}` : 'Search'}
              className="m-1 field"
            />
            <Command.List className="min-h-0 overflow-y-auto p-0.5">
              <Command.Empty className="px-2 py-1 text-soft">Nothing like “{search}”.</Command.Empty>
              {found.map(({ key, words }) => (
                <Command.Item
                  key={key}
                  value={key}
                  onSelect={() => {
                    choose(key)
                    setSearch('')
                    setOpen(false)
                  }}
                  className={`${ITEM} data-[selected=true]:bg-lime data-[selected=true]:text-ink`}
                >
                  <span className="w-3.5 shrink-0">{key === value && <Check size={13} aria-hidden />}</span>
                  {words}
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
