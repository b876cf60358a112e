import { toast } from '../ui/toast'
import { messageOf } from '../api/client'
import { useEditedStore } from '../edits/edited'
import { FieldError } from '../ui/field'
import { Switch } from '../ui/switch'
import { Button } from '../ui/button'
import { TextArea } from '../ui/input'

/** Which shops' pages may ask for mileposts, and the one tag that shows them there. */
export function ShopPages() {
  const edited = useEditedStore()
  const closed = { open: false, origins: [] as string[] }
  const edit = edited.at('origins')
  const text = (edit?.typed as string | undefined) ?? (edited.stored.storefront?.origins ?? []).join('\n')
  const { open } = edited.doc.storefront ?? closed
  const problem = edit?.problem && messageOf(edit.problem)
  const type = (typed: string) => {
    const origins = typed
      .split(/[\s,]+/)
      .map((line) => line.trim())
      .filter(Boolean)
    edited.change(
      'origins',
      'Shops that may ask',
      ({ storefront }) => ({ storefront: { ...closed, ...storefront, origins } }),
      { typed, read: ({ storefront }) => storefront?.origins },
    )
  }
  const turn = (open: boolean) =>
    edited.put(
      'open',
      'Shops’ pages may ask',
      ({ storefront }) => ({ storefront: { ...closed, ...storefront, open } }),
      { read: ({ storefront }) => storefront?.open },
    )
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
        <TextArea
          id="origins"
          className="w-96 max-w-full"
          rows={3}
          placeholder="https://shop.example"
          spellCheck={false}
          aria-invalid={problem ? true : undefined}
          value={text}
          onChange={(event) => type(event.target.value)}
          onBlur={() => edited.commit('origins')}
        />
        {problem && <FieldError>{problem}</FieldError>}
        <span className="flex items-center gap-3">
          <span className="font-cond text-soft">Their pages may ask</span>
          <Switch label="Shops’ pages may ask" on={open} change={turn} />
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
          <Button
            onClick={() =>
              void navigator.clipboard.writeText(tag).then(
                () => toast('Copied: the tag'),
                () => toast('The browser does not let this page copy. Mark the tag and copy it yourself.'),
              )
            }
          >
            Copy it
          </Button>
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
