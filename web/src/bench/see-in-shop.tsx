import { Store } from 'lucide-react'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api, answerOf, messageOf } from '../api/client'
import { Button } from '../ui/button'
import { toast } from '../ui/toast'
import { documentOf, momentOf, useBenchCart } from '../cart/cart'
import { useStandsOn } from '../cart/standing'

/** Opens the shop's own page with this cart, address, group and moment, on what the bench stands on. */
export function SeeInShop() {
  const { cart } = useBenchCart()
  const release = useStandsOn()
  const navigate = useNavigate()
  const [busy, setBusy] = useState(false)
  const open = async () => {
    setBusy(true)
    // Before anything is waited for: browsers open a page only while the press counts.
    const page = window.open('about:blank')
    // The shop's page is to have no hold of this one.
    if (page) page.opener = null
    try {
      const trial = await answerOf(
        api.POST('/api/trials', { body: { cart: { ...documentOf(cart) }, at: momentOf(cart), release } }),
      )
      if (trial.page && page) page.location.replace(trial.page)
      else {
        page?.close()
        if (!trial.page) {
          toast('Say first on which page carts are tried')
          void navigate('/offers/pages')
        }
      }
    } catch (error) {
      page?.close()
      toast(messageOf(error))
    } finally {
      setBusy(false)
    }
  }
  return (
    <Button
      look="quiet"
      className="px-1"
      aria-label="See it in the shop"
      data-tip="See it in the shop, as a shopper"
      disabled={busy || cart.lines.length === 0}
      onClick={() => void open()}
    >
      <Store size={14} aria-hidden />
    </Button>
  )
}
