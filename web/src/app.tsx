import { lazy, Suspense, useSyncExternalStore } from 'react'
import { Navigate, Outlet, useRoutes, type RouteObject } from 'react-router'
import { isOpen } from './api/client'
import { useSetupQuery, WorkshopProvider } from './api/setup'
import { signed } from './api/signed'
import { BenchCartProvider } from './bench/cart'
import { BenchResultProvider } from './bench/result'
import { Board } from './board/board'
import { Shell } from './frame/shell'
import { Wordmark } from './frame/top-bar'
import { Button } from './ui/button'
import { Section } from './ui/section'

const Catalogue = lazy(async () => ({ default: (await import('./goods/catalogue')).Catalogue }))
const Classes = lazy(async () => ({ default: (await import('./goods/classes')).Classes }))
const GoodsCsv = lazy(async () => ({ default: (await import('./goods/csv')).GoodsCsv }))
const FindingsPart = lazy(async () => ({ default: (await import('./findings/part')).FindingsPart }))
const Goods = lazy(async () => ({ default: (await import('./goods/goods')).Goods }))
const Treatments = lazy(async () => ({ default: (await import('./goods/treatments')).Treatments }))
const Methods = lazy(async () => ({ default: (await import('./methods/methods')).Methods }))
const OfferList = lazy(async () => ({ default: (await import('./offers/offer-list')).OfferList }))
const Offers = lazy(async () => ({ default: (await import('./offers/offers')).Offers }))
const Registers = lazy(async () => ({ default: (await import('./offers/registers')).Registers }))
const ShopPages = lazy(async () => ({ default: (await import('./shop-pages/shop-pages')).ShopPages }))
const Proofs = lazy(async () => ({ default: (await import('./proofs/proofs')).Proofs }))
const ProofList = lazy(async () => ({ default: (await import('./proofs/proof-list')).ProofList }))
const ProofsCsv = lazy(async () => ({ default: (await import('./proofs/proofs-csv')).ProofsCsv }))
const Walk = lazy(async () => ({ default: (await import('./proofs/walk')).Walk }))
const OrderPage = lazy(async () => ({ default: (await import('./rules/order-page')).OrderPage }))
const RuleList = lazy(async () => ({ default: (await import('./rules/rule-list')).RuleList }))
const Rules = lazy(async () => ({ default: (await import('./rules/rules')).Rules }))
const Carriers = lazy(async () => ({ default: (await import('./carriers/carriers')).Carriers }))
const Survey = lazy(async () => ({ default: (await import('./carriers/survey')).Survey }))
const Boxes = lazy(async () => ({ default: (await import('./parcels/boxes')).Boxes }))
const Zones = lazy(async () => ({ default: (await import('./zones/zones')).Zones }))
const ByClass = lazy(async () => ({ default: (await import('./rates/by-class')).ByClass }))
const Tariff = lazy(async () => ({ default: (await import('./rates/tariff')).Tariff }))
const RateList = lazy(async () => ({ default: (await import('./rates/rate-list')).RateList }))
const Rates = lazy(async () => ({ default: (await import('./rates/rates')).Rates }))
const RatesCsv = lazy(async () => ({ default: (await import('./rates/rates-csv')).RatesCsv }))
const Releases = lazy(async () => ({ default: (await import('./releases/releases')).Releases }))
const Publish = lazy(async () => ({ default: (await import('./releases/publish')).Publish }))
const ReleaseHistory = lazy(async () => ({ default: (await import('./releases/history')).ReleaseHistory }))
const Orders = lazy(async () => ({ default: (await import('./releases/orders')).Orders }))
const WhatGoesOn = lazy(async () => ({ default: (await import('./live/today')).WhatGoesOn }))
const TurnedAway = lazy(async () => ({ default: (await import('./live/turned-away')).TurnedAway }))
const CheckoutDoor = lazy(async () => ({ default: (await import('./releases/door')).CheckoutDoor }))
const Reference = lazy(async () => ({ default: (await import('./releases/reference')).Reference }))
const Webhooks = lazy(async () => ({ default: (await import('./releases/webhooks')).Webhooks }))
const Findings = lazy(async () => ({ default: (await import('./findings/findings')).Findings }))
const FirstRun = lazy(async () => ({ default: (await import('./store/first-run')).FirstRun }))
const Shop = lazy(async () => ({ default: (await import('./store/shop')).Shop }))
const ShopSettings = lazy(async () => ({ default: (await import('./store/shop-settings')).ShopSettings }))
const People = lazy(async () => ({ default: (await import('./people/people')).People }))
const MyAccount = lazy(async () => ({ default: (await import('./people/me')).MyAccount }))
const AuditLog = lazy(async () => ({ default: (await import('./people/log')).AuditLog }))
const Joining = lazy(async () => ({ default: (await import('./people/joining')).Joining }))
const SignInPage = lazy(async () => ({ default: (await import('./people/sign-in')).SignInPage }))
const SignedOut = lazy(async () => ({ default: (await import('./people/sign-in')).SignedOut }))

/** Loads the setup; without a shop there is only the page that opens one. */
function Root() {
  const { data: setup, error, refetch } = useSetupQuery()
  const out = useSyncExternalStore(signed.subscribe, signed.out)
  if (!setup && out)
    return (
      <Suspense>
        <SignInPage />
      </Suspense>
    )
  if (!setup)
    return (
      <div className="grid h-dvh place-items-center">
        <div className="text-center">
          <Wordmark />
          {error ? (
            <div role="alert" className="mt-3">
              <p>{error.message}</p>
              <Button className="mt-2" onClick={() => void refetch()}>
                Try again
              </Button>
            </div>
          ) : (
            <p className="mt-3 text-soft">Fetching the setup …</p>
          )}
        </div>
      </div>
    )
  if (!isOpen(setup))
    return (
      <Suspense>
        <FirstRun />
      </Suspense>
    )
  return (
    <WorkshopProvider setup={setup}>
      <BenchCartProvider setup={setup}>
        <BenchResultProvider>
          <Outlet />
          {out && (
            <Suspense>
              <SignedOut />
            </Suspense>
          )}
        </BenchResultProvider>
      </BenchCartProvider>
    </WorkshopProvider>
  )
}

const ROUTES: RouteObject[] = [
  {
    path: '/joining',
    element: (
      <Suspense>
        <Joining />
      </Suspense>
    ),
  },
  {
    path: '/reference',
    element: (
      <Suspense fallback={<p className="p-4 text-soft">Fetching the reference …</p>}>
        <Reference />
      </Suspense>
    ),
  },
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
              { path: 'tariff', element: <Tariff /> },
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
          {
            path: '/proofs',
            element: <Proofs />,
            children: [
              { index: true, element: <ProofList /> },
              { path: 'walk', element: <Walk /> },
              { path: 'csv', element: <ProofsCsv /> },
            ],
          },
          { path: '/findings', element: <Findings /> },
          {
            path: '/release',
            element: <Releases />,
            children: [
              { index: true, element: <Publish /> },
              { path: 'now', element: <WhatGoesOn /> },
              { path: 'history', element: <ReleaseHistory /> },
              { path: 'door', element: <CheckoutDoor /> },
              { path: 'webhooks', element: <Webhooks /> },
            ],
          },
          {
            path: '/orders',
            element: <Section title="Orders" parts={[]} />,
            children: [{ index: true, element: <Orders /> }],
          },
          {
            path: '/turned-away',
            element: <Section title="Turned away" parts={[]} />,
            children: [{ index: true, element: <TurnedAway /> }],
          },
          {
            path: '/shop',
            element: <Shop />,
            children: [
              { index: true, element: <ShopSettings /> },
              { path: 'people', element: <People /> },
              { path: 'me', element: <MyAccount /> },
              { path: 'log', element: <AuditLog /> },
            ],
          },
          { path: '*', element: <Navigate to="/" replace /> },
        ],
      },
    ],
  },
]

/** Every page, by its address. */
export function App() {
  return useRoutes(ROUTES)
}
