import { useState } from 'react'
import { type Bench, type Offer } from '../api/client'
import { useWorkshop } from '../edits/workshop'
import { useBenchResult } from '../cart/result'
import { SecondBench } from '../cart/second'
import { useFindingsAbout } from '../findings/about'
import { PolicyList, useOpened } from '../policies/policy-list'
import { AddByName } from '../forms/add-by-name'
import { formatsOf } from '../ui/format'
import { OfferEditor } from './offer-editor'
import { offerSentence, standWords } from '../words/offers'
import { Empty } from '../ui/said'

/** Every offer as a sentence, with how it stands with the bench cart. */
export function OfferList() {
  const { setup } = useWorkshop()
  const { bench } = useBenchResult()
  const formats = formatsOf(setup.store)
  const { opened, open } = useOpened('/offers', 'offer')
  const findings = useFindingsAbout('offers')
  const [second, setSecond] = useState<Bench | undefined>()
  const stand = (offer: Offer) => (
    <>
      <Stand label="Bench cart" offer={offer} bench={bench} />
      {second && <Stand label="Second cart" offer={offer} bench={second} />}
    </>
  )
  return (
    <div className="pb-8">
      <SecondBench report={setSecond} />
      <p className="mb-2 max-w-3xl text-soft">
        An offer makes shipping free or cheaper under conditions. Of those that a cart has reached, all that
        go together count as one, and the lowest price wins; among equals the one that stands higher.
      </p>
      <PolicyList
        label="Offers"
        kind="offers"
        items={setup.offers}
        opened={opened}
        open={open}
        findings={findings}
        sentence={(offer) => offerSentence(offer, setup, formats)}
        stand={stand}
        editor={(offer) => (
          <OfferEditor key={offer.id} offer={offer} close={() => open(null)} opened={open} />
        )}
      />
      {setup.offers.length === 0 && (
        <Empty>
          There are no offers yet: everybody pays what the rates say. Name one below; it starts switched off.
        </Empty>
      )}
      <AddByName
        kind="offers"
        what="offer"
        inputId="new-offer"
        draft={(name) => ({ name, active: false, effect: { kind: 'free' } })}
        added={(made) => open(made.id)}
      />
    </div>
  )
}

/** How an offer stands with one cart. */
function Stand({ label, offer, bench }: { label: string; offer: Offer; bench: Bench | undefined }) {
  const { setup } = useWorkshop()
  const outlook = bench?.quote.offers.find((one) => one.offer === offer.id)
  if (!outlook) return null
  return (
    <span className="block">
      {label}:{' '}
      <span
        className={
          outlook.state === 'acted' && offer.effect?.kind === 'free' ? 'bg-lime px-1 text-ink' : 'text-ink'
        }
      >
        {standWords(outlook, setup, formatsOf(setup.store))}
      </span>
    </span>
  )
}
