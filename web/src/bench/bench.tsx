import { Status } from '../ui/alerts'
import {
  ArrowLeftRight,
  ChevronDown,
  ChevronUp,
  Columns2,
  PackagePlus,
  PanelLeftClose,
  X,
} from 'lucide-react'
import { useState, type ReactNode } from 'react'
import { useWorkshop } from '../edits/workshop'
import { BenchParcels } from '../parcels/bench-parcels'
import { formatsOf } from '../ui/format'
import { BesideCart, useBenchCart, useBeside } from '../cart/cart'
import { CartMenu } from './cart-menu'
import { Destination } from './destination'
import { Gets } from './gets'
import { GoodsSearch } from '../forms/goods-search'
import { Lines } from './lines'
import { Measures } from './measures'
import { BenchResultProvider } from '../cart/result'
import { standOn, useStandsOn } from '../cart/standing'
import { Summary } from './summary'
import { lazily } from '../ui/lazily'
import { Button } from '../ui/button'

const AdHoc = lazily(async () => (await import('./ad-hoc')).AdHoc)

/**
 * The test cart that is always at hand, and what it gets; a second one can stand beside it. On a narrow screen it is a
 * sheet at the foot of the page, of which one line of the answer is always to be seen.
 */
export function Bench({ collapse }: { collapse: () => void }) {
  const { beside, open, close, swap } = useBeside()
  const [raised, setRaised] = useState(false)
  const control = (label: string, act: () => void, icon: ReactNode, title = label) => (
    <Button look="quiet" className="px-1" onClick={act} aria-label={label} data-tip={title}>
      {icon}
    </Button>
  )
  return (
    <aside
      id="bench"
      aria-label="Bench"
      onKeyDown={(event) => event.key === 'Escape' && setRaised(false)}
      className={`z-30 print:hidden flex w-full shrink-0 flex-col border-ink bg-sheet max-lg:border-t-2 lg:w-auto lg:flex-row lg:border-r ${raised ? 'max-lg:h-[85%]' : ''}`}
    >
      <Button
        look="bare"
        className="flex min-h-11 w-full items-center gap-2 px-4 text-left lg:hidden"
        aria-expanded={raised}
        onClick={() => setRaised(!raised)}
      >
        {raised ? <ChevronDown size={16} aria-hidden /> : <ChevronUp size={16} aria-hidden />}
        <span className="sr-only">Bench: </span>
        <Summary />
      </Button>
      <div
        className={`min-h-0 flex-1 overflow-y-auto lg:flex lg:overflow-visible ${raised ? '' : 'max-lg:hidden'}`}
      >
        <Column
          title="Bench"
          search="bench-search"
          controls={
            <>
              {!beside && control('Set a second cart beside it', open, <Columns2 size={14} aria-hidden />)}
              <span className="max-lg:hidden">
                {control(
                  'Hide the bench',
                  collapse,
                  <PanelLeftClose size={14} aria-hidden />,
                  'Hide the bench (b)',
                )}
              </span>
            </>
          }
        />
        {beside && (
          <BesideCart>
            <BenchResultProvider>
              <section aria-label="Second cart" className="contents">
                <Column
                  title="Second cart"
                  search="beside-search"
                  controls={
                    <>
                      {control('Swap the two carts', swap, <ArrowLeftRight size={14} aria-hidden />)}
                      {control('Put the second cart away', close, <X size={14} aria-hidden />)}
                    </>
                  }
                />
              </section>
            </BenchResultProvider>
          </BesideCart>
        )}
      </div>
    </aside>
  )
}

/** Says so while the bench stands on a release, and leads back to the draft. */
function StandsOn() {
  const release = useStandsOn()
  if (release === null) return null
  return (
    <Status className="flex-none border-l-4 border-ink bg-white px-2 py-0.5">
      As <b>release {release}</b> sells it.{' '}
      <Button look="bare" className="rounded-xs underline underline-offset-2" onClick={() => standOn(null)}>
        Back to the draft
      </Button>
    </Status>
  )
}

/**
 * One cart: its goods, where it goes, and what it gets. A long cart scrolls in itself, so that what it gets stays in
 * sight.
 */
function Column({ title, search, controls }: { title: string; search: string; controls: ReactNode }) {
  const { setup } = useWorkshop()
  const { add } = useBenchCart()
  const [adHoc, setAdHoc] = useState(false)
  const formats = formatsOf(setup.store)
  return (
    <div className="flex w-full shrink-0 flex-col gap-1.5 border-edge px-4 py-2 not-first:border-t lg:h-full lg:w-[336px] lg:not-first:border-t-0 lg:not-first:border-l">
      <header className="flex flex-none items-baseline justify-between">
        <h2 className="text-xl">{title}</h2>
        <span className="flex">
          <CartMenu />
          {controls}
        </span>
      </header>
      <StandsOn />
      <Lines formats={formats} />
      <span className="flex flex-none items-start gap-1">
        <span className="flex-1">
          <GoodsSearch id={search} formats={formats} take={(product) => add(product.sku)} />
        </span>
        <Button
          look="quiet"
          className="h-8 px-1"
          aria-expanded={adHoc}
          aria-label="Goods not in the catalogue"
          data-tip="Goods not in the catalogue"
          onClick={() => setAdHoc(!adHoc)}
        >
          <PackagePlus size={16} aria-hidden />
        </Button>
      </span>
      {adHoc && <AdHoc close={() => setAdHoc(false)} />}
      <Destination />
      <div className="min-h-0 shrink-0 border-t-2 border-ink pt-1 lg:min-h-[40%] lg:shrink lg:overflow-y-auto">
        <Measures formats={formats} />
        <Gets formats={formats} />
        <BenchParcels />
      </div>
    </div>
  )
}
