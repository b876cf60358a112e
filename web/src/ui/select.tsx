import { ChevronDown } from 'lucide-react'
import { useState, type ComponentProps, type ReactNode } from 'react'
import { lazily } from './lazily'

/** A value and its words; an item of a setup without an id is none. */
export type ChoiceOf<V extends string | number> = readonly [value: V | undefined, words: string | undefined]

export interface SelectProps<V extends string | number> {
  /** Its name for a screen reader, where no label of the page is its own. */
  label?: string | undefined
  value: V | ''
  /** In their order; what is left out under a condition may stand there as its false. */
  choices: readonly (ChoiceOf<V> | false | undefined)[]
  choose: (value: V) => void
  /** What it shows while its value is none of the choices: "a class …" of a list to add from. */
  placeholder?: string
  className?: string
  id?: string | undefined
  autoFocus?: boolean
  disabled?: boolean
  /** Begins open, as a cell that is being edited does. */
  open?: boolean
  closed?: () => void
  'aria-invalid'?: boolean | undefined
  'aria-describedby'?: string | undefined
}

/** From how many choices on a list can be searched. */
const LONG = 12

interface MenuProps {
  label: string | undefined
  /** The key of the value that is chosen, and the key and the words of each. */
  value: string
  choices: readonly { key: string; words: string }[]
  choose: (key: string) => void
  open: boolean
  setOpen: (open: boolean) => void
  trigger: ComponentProps<'button'>
}

/** Radix takes no empty value. */
const keyOf = (value: string | number | undefined) => `=${value ?? ''}`

/** How a list opens is fetched when one is first pointed at: until then there are only buttons. */
const Short = lazily<MenuProps>(async () => (await import('./select-menu')).ShortMenu)
const Long = lazily<MenuProps>(async () => (await import('./select-menu')).LongMenu)

/** One of some values: a list that opens, which can be searched where it is long. */
export function Select<V extends string | number>({
  label,
  value,
  choices: all,
  choose,
  placeholder,
  className = '',
  open: begins = false,
  closed,
  ...rest
}: SelectProps<V>) {
  const [open, setOpen] = useState(begins)
  const [used, setUsed] = useState(begins)
  const given = all.filter((choice) => choice !== false && choice !== undefined)
  const choices = given.map(([of, words]) => ({ key: keyOf(of), words: words ?? '' }))
  const Menu = choices.length > LONG ? Long : Short
  const words = choices.find(({ key }) => key === keyOf(value))?.words ?? placeholder ?? ''
  const show = () => {
    setUsed(true)
    setOpen(true)
  }
  const trigger: ComponentProps<'button'> = {
    ...rest,
    type: 'button',
    role: 'combobox',
    'aria-label': label,
    'aria-expanded': open,
    'aria-haspopup': 'listbox',
    className: `field inline-flex items-center justify-between gap-1 text-left font-sans ${className}`,
    children: <Chosen>{words}</Chosen>,
    onKeyDown: (event) => {
      if (open || (event.key !== 'ArrowDown' && event.key !== 'ArrowUp')) return
      event.preventDefault()
      show()
    },
  }
  const closedButton = (
    <button {...trigger} onPointerEnter={Menu.prepare} onFocus={Menu.prepare} onClick={show} />
  )
  if (!used) return closedButton
  return (
    <Menu
      label={label}
      value={keyOf(value)}
      choices={choices}
      choose={(key) => {
        const found = given.find(([of]) => keyOf(of) === key)
        if (found) choose((found[0] ?? '') as V)
      }}
      open={open}
      setOpen={(next) => {
        setOpen(next)
        if (!next) closed?.()
      }}
      trigger={trigger}
      meanwhile={closedButton}
    />
  )
}

function Chosen({ children }: { children: ReactNode }) {
  return (
    <>
      <span className="min-w-0 truncate">{children}</span>
      <ChevronDown size={13} aria-hidden className="shrink-0 text-soft" />
    </>
  )
}

export type { MenuProps }
