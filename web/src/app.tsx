import { lazy, Suspense, useSyncExternalStore } from 'react'
import { Navigate, Outlet, useRoutes, type RouteObject } from 'react-router'
import { isOpen } from './api/client'
import { WorkshopProvider } from './edits/workshop'
import { useSetupQuery } from './setup/queries'
import { signed } from './api/signed'
import { BenchCartProvider } from './cart/cart'
import { BenchResultProvider } from './cart/result'
import { Shell } from './frame/shell'
import { Wordmark } from './ui/wordmark'
import { Headed } from './pages/headed'
import { PAGES, type Page } from './pages/pages'
import { Button } from './ui/button'

const Reference = lazy(async () => ({ default: (await import('./releases/reference')).Reference }))
const FirstRun = lazy(async () => ({ default: (await import('./store/first-run')).FirstRun }))
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

const OPENING = <p className="p-4 text-soft">Opening …</p>

/** Where the address of a page leads, and those of its parts. */
function routeOf(page: Page): RouteObject {
  const [first, ...others] = page.parts
  if (!page.headed) return { path: page.at, element: <first.open meanwhile={OPENING} /> }
  return {
    path: page.at,
    element: <Headed page={page} />,
    children: [
      { index: true, element: <first.open meanwhile={OPENING} /> },
      ...others.map(({ at, open: Open }) => ({ path: at, element: <Open meanwhile={OPENING} /> })),
    ],
  }
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
        children: [...PAGES.map(routeOf), { path: '*', element: <Navigate to="/" replace /> }],
      },
    ],
  },
]

/** Every page, by its address. */
export function App() {
  return useRoutes(ROUTES)
}
