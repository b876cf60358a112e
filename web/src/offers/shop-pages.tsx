import { useState } from 'react'
import { toast } from 'sonner'
import { ApiProblem, call } from '../api/client'
import { useWorkshop } from '../api/setup'
import { FieldError } from '../ui/field'
import { Switch } from '../ui/switch'

/** Which shops' pages may ask for mileposts, and the one tag that shows them there. */
export function ShopPages() {
  const { setup, edit } = useWorkshop()
  const store = setup.store!
  const storefront = store.storefront ?? { open: false, origins: [] }
  const [typed, setTyped] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const text = typed ?? storefront.origins.join('\n')
  const origins = text
    .split(/[\s,]+/)
    .map((line) => line.trim())
    .filter(Boolean)
  const save = async (open: boolean) => {
    try {
      await edit(() =>
        call('PATCH', '/api/store', { storefront: { open, origins }, lock_version: store.lock_version }),
      )
      setTyped(null)
      setProblem(null)
    } catch (error) {
      setProblem(error instanceof ApiProblem ? error.summary : (error as Error).message)
    }
  }
  const tag = `<script src="${location.origin}/embed/milepost.js" data-page="cart" data-cart='{"lines":[]}'></script>`
  return (
    <div className="flex max-w-3xl flex-col gap-4 pb-8">
      <p className="text-soft">
        Mileposts can stand on your shop’s own pages. One tag shows them where it stands; what kind of page it
        is stands in the tag, and your own stylesheet says how they look. The page sends the cart and gets the
        text: no cookies, nothing is stored, and only the shops listed here may ask.
      </p>
      <section className="flex flex-col gap-1">
        <label htmlFor="origins" className="font-cond text-soft">
          Shops that may ask, one in a line
        </label>
        <textarea
          id="origins"
          className="field w-96 max-w-full"
          rows={3}
          placeholder="https://shop.example"
          spellCheck={false}
          aria-invalid={problem ? true : undefined}
          value={text}
          onChange={(event) => {
            setTyped(event.target.value)
            setProblem(null)
          }}
          onBlur={() => typed !== null && void save(storefront.open)}
        />
        {problem && <FieldError>{problem}</FieldError>}
        <span className="flex items-center gap-3">
          <span className="font-cond text-soft">Their pages may ask</span>
          <Switch label="Shops’ pages may ask" on={storefront.open} change={(open) => void save(open)} />
        </span>
      </section>
      <section className="flex flex-col gap-1">
        <h2 className="text-lg">The tag</h2>
        <pre
          className="overflow-x-auto border border-edge bg-white p-2 text-xs"
          tabIndex={0}
          aria-label="The tag"
        >
          {tag}
        </pre>
        <span>
          <button
            type="button"
            className="button"
            onClick={() =>
              void navigator.clipboard.writeText(tag).then(
                () => toast('Copied: the tag'),
                () => toast('The browser does not let this page copy. Mark the tag and copy it yourself.'),
              )
            }
          >
            Copy it
          </button>
        </span>
        <p className="text-soft">
          When the cart changes, the page says so:{' '}
          <code>{`document.dispatchEvent(new CustomEvent('gate-mile:cart', { detail: cart }))`}</code>. Style{' '}
          <code>.gate-mile-milepost</code>; its <code>data-moment</code> says which text it shows.
        </p>
      </section>
    </div>
  )
}
