import type { ReactNode } from 'react'
import { Button } from './button'
import { toast } from './toast'

/** A secret that is told this once: to be copied now. */
export function Once({ what, text, close }: { what: ReactNode; text: string; close: () => void }) {
  const copy = async () => {
    await navigator.clipboard.writeText(text)
    toast('Copied')
  }
  return (
    <div role="alert" className="mb-2 border-l-4 border-ink bg-white px-3 py-2">
      <p>{what} Copy it now: it is not shown again.</p>
      <p className="my-1 flex flex-wrap items-center gap-2">
        <code className="bg-paper px-2 py-1 break-all select-all">{text}</code>
        <Button autoFocus onClick={() => void copy()}>
          Copy
        </Button>
        <Button look="quiet" onClick={close}>
          I have it
        </Button>
      </p>
    </div>
  )
}
