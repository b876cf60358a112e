import { Bookmark, Braces, Link2, Trash2 } from 'lucide-react'
import { Pop } from '../ui/pop'
import { copy } from '../ui/copy'
import { lazily } from '../ui/lazily'
import { useProofActs } from '../proofs/use-proofs'
import { documentOf, momentOf, useBenchCart } from '../cart/cart'
import { Button } from '../ui/button'
import { SeeInShop } from './see-in-shop'

const CartJson = lazily(async () => (await import('./cart-json')).CartJson)

/** What can be done with the whole cart: shared as a link, taken out and put in as JSON, emptied. */
export function CartMenu() {
  const { cart, clear } = useBenchCart()
  const { keep } = useProofActs()
  return (
    <span className="flex">
      <Button look="quiet" disabled={cart.lines.length === 0} onClick={clear}>
        <Trash2 size={13} aria-hidden className="sr-only" /> Empty
      </Button>
      <Button
        look="quiet"
        className="px-1"
        aria-label="Keep this cart"
        data-tip="Keep this cart and what it gets as a proof"
        onClick={() => void keep(documentOf(cart), momentOf(cart))}
      >
        <Bookmark size={14} aria-hidden /> Keep
      </Button>
      <Button
        look="quiet"
        className="px-1"
        aria-label="Copy a link to this cart"
        data-tip="Copy a link to this cart"
        onClick={() => void copy(location.href, 'the address of this page with the cart in it')}
      >
        <Link2 size={14} aria-hidden />
      </Button>
      <SeeInShop />
      <Pop
        className="quiet px-1"
        label="The cart as JSON"
        title="The cart as JSON"
        button={<Braces size={14} aria-hidden />}
        align="start"
        contentClass="w-[26rem] border border-ink bg-white p-3"
      >
        {(close) => <CartJson close={close} />}
      </Pop>
    </span>
  )
}
