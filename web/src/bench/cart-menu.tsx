import { Braces, Link2, Trash2 } from 'lucide-react'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import { toast } from 'sonner'
import { ApiProblem, call, type Cart } from '../api/client'
import { useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import { benchOf, documentOf, useBenchCart } from './cart'

async function copy(text: string, what: string) {
  try {
    await navigator.clipboard.writeText(text)
    toast(`Copied: ${what}`)
  } catch {
    toast('The browser does not let this page copy. Mark the text and copy it yourself.')
  }
}

/** What can be done with the whole cart: shared as a link, taken out and put in as JSON, emptied. */
export function CartMenu() {
  const { cart, clear } = useBenchCart()
  const [open, setOpen] = useState(false)
  return (
    <span className="flex">
      <button type="button" className="quiet" disabled={cart.lines.length === 0} onClick={clear}>
        <Trash2 size={13} aria-hidden className="sr-only" /> Empty it
      </button>
      <button
        type="button"
        className="quiet px-1"
        aria-label="Copy a link to this cart"
        title="Copy a link to this cart"
        onClick={() => void copy(location.href, 'the address of this page with the cart in it')}
      >
        <Link2 size={14} aria-hidden />
      </button>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className="quiet px-1" aria-label="The cart as JSON" title="The cart as JSON">
          <Braces size={14} aria-hidden />
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={6}
            className="z-40 w-[26rem] max-w-[92vw] border border-ink bg-white p-3"
          >
            <CartJson close={() => setOpen(false)} />
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </span>
  )
}

function CartJson({ close }: { close: () => void }) {
  const { setup } = useWorkshop()
  const { cart, replace } = useBenchCart()
  const now = JSON.stringify(documentOf(cart), null, 2)
  const [text, setText] = useState(now)
  const [errors, setErrors] = useState<string[]>([])
  const take = async () => {
    let document: Cart
    try {
      document = JSON.parse(text) as Cart
    } catch (error) {
      return setErrors([`This is not JSON: ${(error as Error).message}`])
    }
    try {
      // The server reads it like any cart; what it can't read is told at its place, and stays typed here.
      await call('POST', '/api/quote', document)
      replace(benchOf(document, setup.store?.country ?? ''))
      close()
    } catch (error) {
      const problem = error instanceof ApiProblem ? error.problem.errors : []
      setErrors(
        problem.length
          ? problem.map(({ pointer, detail }) => `${pointer || '/'}: ${detail}`)
          : [(error as Error).message],
      )
    }
  }
  return (
    <>
      <h2 className="text-lg">The cart as JSON</h2>
      <textarea
        className="field mt-1 w-full text-xs"
        rows={14}
        aria-label="The cart as JSON"
        aria-invalid={errors.length > 0 || undefined}
        spellCheck={false}
        value={text}
        onChange={(event) => {
          setText(event.target.value)
          setErrors([])
        }}
      />
      {errors.slice(0, 6).map((error) => (
        <FieldError key={error}>{error}</FieldError>
      ))}
      <p className="mt-2 flex gap-2">
        <button type="button" className="button" onClick={() => void copy(text, 'the cart')}>
          Copy it
        </button>
        <button
          type="button"
          className="button border-ink font-semibold"
          disabled={text === now}
          onClick={() => void take()}
        >
          Put this cart on the bench
        </button>
      </p>
    </>
  )
}
