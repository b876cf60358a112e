import { typedOf } from '../edits/edits'
import { Link } from 'react-router'
import { messageOf } from '../api/client'
import { useEditedStore } from '../edits/edited'
import { FieldError } from '../ui/field-error'
import { TextArea } from '../ui/input'
import { Radios } from '../ui/radios'
import { Switch } from '../ui/switch'
import { Tick } from '../ui/tick'
import { Typed } from '../ui/typed'
import { Groups } from './groups'
import { partsOf, type PartName, type Parts } from './parts'
import { ShopPart } from './shop-part'

/** What can stand on the shop's own pages, how it behaves there, and who may ask. */
export function ShopPages() {
  const edited = useEditedStore()
  const closed: { open: boolean; origins: string[] } = { open: false, origins: [] }
  const parts = partsOf(edited.doc.storefront?.parts)
  const changed =
    <Name extends PartName>(name: Name, fields: Partial<Parts[Name]>) =>
    ({ storefront }: typeof edited.doc) => ({
      storefront: {
        ...closed,
        ...storefront,
        parts: { ...storefront?.parts, [name]: { ...partsOf(storefront?.parts)[name], ...fields } },
      },
    })
  /** One place for each field, so that two that are changed at once are both stored. */
  const placeOf = <Name extends PartName>(name: Name, fields: Partial<Parts[Name]>) => {
    const names = Object.keys(fields) as (keyof Parts[Name])[]
    return {
      key: `${name} ${names.join(' ')}`,
      read: ({ storefront }: typeof edited.doc) =>
        names.map((field) => partsOf(storefront?.parts)[name][field]),
    }
  }
  const put = <Name extends PartName>(name: Name, fields: Partial<Parts[Name]>) => {
    const { key, read } = placeOf(name, fields)
    edited.put(key, 'On the shop’s pages', changed(name, fields), { read })
  }
  const type = <Name extends PartName>(name: Name, fields: Partial<Parts[Name]>) => {
    const { key, read } = placeOf(name, fields)
    edited.change(key, 'On the shop’s pages', changed(name, fields), { read })
  }
  const { estimate, choice, milepost, address } = parts
  return (
    <div className="flex flex-col gap-6 pb-8">
      <p className="max-w-3xl text-soft">
        Parts for your shop’s own pages, each with one script and one tag. Your own stylesheet says how they
        look, they set no cookies, and they ask with a public key that lists your shop’s address (
        <Link to="/release/door">Checkout door</Link>).
      </p>
      <WhoMayAsk />
      <ShopPart
        name="estimate"
        title="Estimate"
        what="What delivery will cost, on a product’s or the basket’s page, before anybody signs in."
        parts={parts}
      >
        <Radios
          label="When it asks"
          value={estimate.ask}
          choose={(ask) => put('estimate', { ask })}
          choices={[
            ['press', 'When a button is pressed'],
            ['open', 'As soon as the country is known'],
          ]}
        />
        <Radios
          label="Where it stands"
          value={estimate.place}
          choose={(place) => put('estimate', { place })}
          choices={[
            ['here', 'In place'],
            ['tab', 'In a tab'],
            ['dialog', 'In a dialog'],
          ]}
        />
        <Tick on={estimate.more} change={(more) => put('estimate', { more })}>
          It says how many more make delivery free
        </Tick>
      </ShopPart>
      <ShopPart
        name="choice"
        title="Choice of delivery"
        what="A field of the checkout’s form. It keeps what was chosen when prices change, and says so."
        parts={parts}
      >
        <Radios
          label="How it is shown"
          value={choice.shown}
          choose={(shown) => put('choice', { shown })}
          choices={[
            ['list', 'As a list'],
            ['menu', 'As a drop-down'],
          ]}
        />
        <Tick on={choice.unavailable} change={(unavailable) => put('choice', { unavailable })}>
          Methods that don’t take the basket are listed, with the reason
        </Tick>
        <Tick on={choice.apart} change={(apart) => put('choice', { apart })}>
          Where some goods keep a basket from being sent, it says which, and what there is without them
        </Tick>
        <Groups
          groups={choice.groups}
          change={(groups) => type('choice', { groups })}
          put={(groups) => put('choice', { groups })}
          commit={() => edited.commit('choice groups')}
          errorAt={edited.problemAt}
        />
      </ShopPart>
      <ShopPart
        name="milepost"
        title="Milepost"
        what="How far the basket is from an offer. What it says is written with the offer."
        parts={parts}
      >
        <Radios
          label="Where it stands"
          value={milepost.place}
          choose={(place) => put('milepost', { place })}
          choices={[
            ['here', 'In place'],
            ['top', 'Along the top of the page'],
          ]}
        />
        <Typed
          label="Kind of page"
          width="w-40"
          value={milepost.page}
          error={edited.problemAt('/storefront/parts/milepost/page')}
          change={(page) => type('milepost', { page })}
          commit={() => edited.commit('milepost page')}
        />
        <Tick on={milepost.bar} change={(bar) => put('milepost', { bar })}>
          With a bar
        </Tick>
      </ShopPart>
      <ShopPart
        name="address"
        title="Address form"
        what="Stands around the address form that your shop has: only countries and regions that are served, and what is not right while it is typed."
        parts={parts}
      >
        <Tick on={address.boxes} change={(boxes) => put('address', { boxes })}>
          It says so when an address looks like a PO box
        </Tick>
      </ShopPart>
      <p className="max-w-3xl text-soft">
        When the basket changes, the page says so:{' '}
        <code>{`document.dispatchEvent(new CustomEvent('gate-mile:cart', { detail: cart }))`}</code>. Every
        part tells what happens with events of its own: <code>gate-mile:estimate</code>,{' '}
        <code>gate-mile:choice</code>, <code>gate-mile:changed</code>, <code>gate-mile:milepost</code>,{' '}
        <code>gate-mile:address</code>. All of it stands in <code>docs/embed.md</code>.
      </p>
    </div>
  )
}

/** Shops that may ask for mileposts without a key, and the page on which carts are tried. */
function WhoMayAsk() {
  const edited = useEditedStore()
  const closed: { open: boolean; origins: string[] } = { open: false, origins: [] }
  const edit = edited.at('origins')
  const text = typedOf<string>(edit) ?? (edited.stored.storefront?.origins ?? []).join('\n')
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
  const setPage = (page: string) =>
    edited.change(
      'page',
      'The page on which carts are tried',
      ({ storefront }) => {
        const { page: _, ...rest } = { ...closed, ...storefront }
        return { storefront: page ? { ...rest, page } : rest }
      },
      { read: ({ storefront }) => storefront?.page },
    )
  return (
    <div className="flex flex-wrap items-start gap-x-10 gap-y-4">
      <section className="flex flex-col gap-1">
        <label htmlFor="origins" className="font-cond text-soft">
          Shops that may ask for mileposts without a key, one in a line
        </label>
        <TextArea
          id="origins"
          className="w-96 max-w-full"
          rows={2}
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
      <section className="flex max-w-md flex-col gap-1">
        <Typed
          label="Page on which carts are tried"
          width="w-80 max-w-full"
          placeholder="https://shop.example/try"
          value={edited.doc.storefront?.page ?? ''}
          error={edited.problemAt('/storefront/page')}
          change={setPage}
          commit={() => edited.commit('page')}
        />
        <p className="text-soft">
          <i>See it in the shop</i> on the bench opens it with <code>gate-mile-trial=…</code>; with that the
          shop’s server gets the cart, and asks for its prices by the draft.
        </p>
      </section>
    </div>
  )
}
