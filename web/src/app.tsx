import { createBrowserRouter, Outlet, Navigate } from 'react-router'
import { useSetupQuery, WorkshopProvider } from './api/setup'
import { BenchCartProvider } from './bench/cart'
import { BenchResultProvider } from './bench/result'
import { Board } from './board/board'
import { Shell } from './frame/shell'
import { Wordmark } from './frame/top-bar'
import { Catalogue } from './goods/catalogue'
import { Classes } from './goods/classes'
import { GoodsCsv } from './goods/csv'
import { FindingsPart } from './findings/part'
import { Goods } from './goods/goods'
import { Treatments } from './goods/treatments'
import { Methods } from './methods/methods'
import { OfferList } from './offers/offer-list'
import { Offers } from './offers/offers'
import { Registers } from './offers/registers'
import { ShopPages } from './offers/shop-pages'
import { OrderPage } from './rules/order-page'
import { RuleList } from './rules/rule-list'
import { Rules } from './rules/rules'
import { Carriers } from './carriers/carriers'
import { Survey } from './carriers/survey'
import { Boxes } from './parcels/boxes'
import { Zones } from './zones/zones'
import { ByClass } from './rates/by-class'
import { RateList } from './rates/rate-list'
import { Rates } from './rates/rates'
import { RatesCsv } from './rates/rates-csv'
import { FirstRun } from './store/first-run'
import { ShopSettings } from './store/shop-settings'

/** Loads the setup; without a shop there is only the page that opens one. */
function Root() {
  const { data: setup, error, refetch } = useSetupQuery()
  if (!setup)
    return (
      <div className="grid h-dvh place-items-center">
        <div className="text-center">
          <Wordmark />
          {error ? (
            <div role="alert" className="mt-3">
              <p>{error.message}</p>
              <button type="button" className="button mt-2" onClick={() => void refetch()}>
                Try again
              </button>
            </div>
          ) : (
            <p className="mt-3 text-soft">Fetching the setup …</p>
          )}
        </div>
      </div>
    )
  if (!setup.store) return <FirstRun />
  return (
    <WorkshopProvider setup={setup}>
      <BenchCartProvider setup={setup}>
        <BenchResultProvider>
          <Outlet />
        </BenchResultProvider>
      </BenchCartProvider>
    </WorkshopProvider>
  )
}

export const router = createBrowserRouter([
  {
    element: <Root />,
    children: [
      {
        element: <Shell />,
        children: [
          { path: '/', element: <Board /> },
          { path: '/zones', element: <Zones /> },
          {
            path: '/goods',
            element: <Goods />,
            children: [
              { index: true, element: <Catalogue /> },
              { path: 'classes', element: <Classes /> },
              { path: 'treatments', element: <Treatments /> },
              { path: 'boxes', element: <Boxes /> },
              { path: 'csv', element: <GoodsCsv /> },
              {
                path: 'findings',
                element: (
                  <FindingsPart
                    section="goods"
                    none="Nothing found: every product has a weight and a way to travel, and every treatment says something."
                  />
                ),
              },
            ],
          },
          {
            path: '/rates',
            element: <Rates />,
            children: [
              { index: true, element: <RateList /> },
              { path: 'classes', element: <ByClass /> },
              { path: 'csv', element: <RatesCsv /> },
              {
                path: 'findings',
                element: (
                  <FindingsPart
                    section="rates"
                    none="Nothing found: every zone has a rate, and no rate has a hole or gives anything away."
                    more={<Survey />}
                  />
                ),
              },
            ],
          },
          { path: '/methods', element: <Methods /> },
          {
            path: '/offers',
            element: <Offers />,
            children: [
              { index: true, element: <OfferList /> },
              { path: 'registers', element: <Registers /> },
              { path: 'pages', element: <ShopPages /> },
              {
                path: 'findings',
                element: (
                  <FindingsPart
                    section="offers"
                    none="Nothing found: every offer can be reached, and none gives more than it brings."
                  />
                ),
              },
            ],
          },
          { path: '/carriers', element: <Carriers /> },
          {
            path: '/rules',
            element: <Rules />,
            children: [
              { index: true, element: <RuleList /> },
              { path: 'order', element: <OrderPage /> },
              {
                path: 'findings',
                element: (
                  <FindingsPart
                    section="rules"
                    none="Nothing found: every rule can hold, none hides or contradicts another, and every cart keeps a method."
                  />
                ),
              },
            ],
          },
          { path: '/shop', element: <ShopSettings /> },
          { path: '*', element: <Navigate to="/" replace /> },
        ],
      },
    ],
  },
])
