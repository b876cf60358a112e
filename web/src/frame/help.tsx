import { Dialog } from 'radix-ui'
import { useOneKey } from './keys'
import { Tick } from '../ui/tick'

const KEYS: [string, string][] = [
  ['/ or Ctrl+K', 'Find or do something'],
  ['b', 'To the bench: add goods (again: hide or show it)'],
  ['Ctrl+Z', 'Undo the newest change'],
  ['Ctrl+Shift+Z', 'Redo'],
  ['↑ ↓', 'One more, one less, in a quantity; the next price line on the Board'],
  ['← →', 'On a price line: its steps, one by one'],
  ['Enter', 'Store a field, or open what has the focus'],
  ['Escape', 'Take back what is typed; close what is open'],
  ['Enter or F2, arrows, Tab', 'In a sheet: edit a cell, move between cells'],
  ['Ctrl+D', 'In a sheet: fill the chosen cells from the first row'],
  ['Alt+Shift+← →', 'In a sheet: make the column narrower or wider'],
  ['Shift+arrows', 'On the map: move it; + and − zoom'],
  ['Alt+↑ ↓', 'In a list whose order counts: move it'],
  ['Ctrl+Enter', 'In the catalogue: open the product'],
  ['Shift+Space', 'In the catalogue: choose the row'],
  ['?', 'This page'],
]

export function Help({ open, setOpen }: { open: boolean; setOpen: (open: boolean) => void }) {
  const [oneKey, setOneKey] = useOneKey()
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 w-[30rem] max-w-[94vw] -translate-x-1/2 border border-ink bg-white p-5"
        >
          <Dialog.Title className="text-xl">Keys</Dialog.Title>
          <dl className="mt-2">
            {KEYS.map(([keys, meaning]) => (
              <div key={keys} className="grid grid-cols-[8rem_1fr] border-t border-hair py-1.5">
                <dt className="font-semibold">{keys}</dt>
                <dd>{meaning}</dd>
              </div>
            ))}
          </dl>
          <Tick className="mt-3 border-t border-hair pt-3" on={oneKey} change={(on) => setOneKey(on)}>
            Single keys (/, b and ?) do something
          </Tick>
          <p className="mt-3 text-soft">
            The bench on the left is a test cart. Every edit shows at once what that cart pays before and
            after. Click any price for its reckoning, line by line.
          </p>
          <Dialog.Close className="button mt-3">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
