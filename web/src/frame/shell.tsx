import { PanelLeftOpen } from 'lucide-react'
import { Suspense, useEffect, useEffectEvent, useRef, useState } from 'react'
import { useQueryClient } from '@tanstack/react-query'
import { ErrorBoundary } from 'react-error-boundary'
import { Outlet, useLocation } from 'react-router'
import { useWorkshop } from '../edits/workshop'
import { Reckoning } from '../reckoning/reckoned'
import { lazily } from '../ui/lazily'
import { Popped } from '../ui/pop'
import { Bench } from '../bench/bench'
import { Away } from './away'
import { Broken } from './broken'
import { useOneKey } from './keys'
import { pageAt } from '../pages/pages'
import { TopBar } from './top-bar'
import { Button } from '../ui/button'
import { Tips } from '../ui/tips'

const Toaster = lazily(async () => (await import('sonner')).Toaster)
const Palette = lazily(async () => (await import('./palette')).Palette)
const Help = lazily(async () => (await import('./help')).Help)

/** What opens over the page is fetched when there is nothing else to do. */
function usePrepared() {
  useEffect(() => {
    const later = window.setTimeout(() => {
      for (const overlay of [Palette, Popped, Reckoning]) overlay.prepare()
    }, 500)
    return () => window.clearTimeout(later)
  }, [])
}

/** Each section has a title of its own, and the keyboard goes with it. */
function useTitle(pathname: string) {
  const { setup } = useWorkshop()
  const section = pageAt(pathname).name
  const shop = setup.store?.name
  const last = useRef(section)
  useEffect(() => {
    document.title = `${section} · ${shop} · Gate Mile`
    if (last.current !== section) document.getElementById('section')?.focus({ preventScroll: true })
    last.current = section
  }, [section, shop])
}

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  )
}

/** Whether something is typed there: then Ctrl+Z belongs to the field. */
function isText(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement)
    return !/^(checkbox|radio|range|file|button|submit)$/.test(target.type)
  return target instanceof HTMLTextAreaElement || (target instanceof HTMLElement && target.isContentEditable)
}

/** The frame around every section: bar on top, bench on the left. */
export function Shell() {
  const { undo, redo, setup } = useWorkshop()
  const [palette, setPalette] = useState(false)
  const [help, setHelp] = useState(false)
  const [bench, setBench] = useState(true)
  const [oneKey] = useOneKey()
  const { pathname } = useLocation()
  const client = useQueryClient()
  useTitle(pathname)
  usePrepared()

  const keys = useEffectEvent((event: KeyboardEvent) => {
    const command = event.ctrlKey || event.metaKey
    if (command && event.key.toLowerCase() === 'k') {
      event.preventDefault()
      setPalette(!palette)
    } else if (command && event.key.toLowerCase() === 'z' && !isText(event.target)) {
      event.preventDefault()
      void (event.shiftKey ? redo() : undo())
    } else if (oneKey && !command && !event.altKey && !isTyping(event.target) && !palette && !help) {
      if (event.key === '/') {
        event.preventDefault()
        setPalette(true)
      } else if (event.key === '?') setHelp(true)
      else if (event.key === 'b') {
        event.preventDefault()
        const search = document.getElementById('bench-search')
        if (
          bench &&
          document.activeElement !== document.body &&
          search?.closest('aside')?.contains(document.activeElement)
        )
          setBench(false)
        else {
          setBench(true)
          requestAnimationFrame(() => document.getElementById('bench-search')?.focus())
        }
      }
    }
  })
  useEffect(() => {
    const listen = (event: KeyboardEvent) => keys(event)
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [])

  return (
    <div className="relative flex h-dvh flex-col overflow-hidden print:block print:h-auto print:overflow-visible">
      <a href="#section" className="sr-only z-50 bg-white p-2 focus:not-sr-only focus:absolute">
        To the section
      </a>
      <Away />
      <TopBar palette={() => setPalette(true)} help={() => setHelp(true)} />
      <div className="flex min-h-0 flex-1 flex-col-reverse overflow-hidden lg:flex-row print:block print:overflow-visible">
        {bench ? (
          <Bench collapse={() => setBench(false)} />
        ) : (
          <Button
            look="bare"
            className="flex items-start border-r border-ink bg-sheet p-2"
            aria-label="Show the bench"
            data-tip="Show the bench (b)"
            onClick={() => setBench(true)}
          >
            <PanelLeftOpen size={16} aria-hidden />
          </Button>
        )}
        <main
          id="section"
          tabIndex={-1}
          className="relative min-h-0 min-w-0 flex-1 overflow-y-auto print:overflow-visible"
        >
          <ErrorBoundary
            FallbackComponent={Broken}
            resetKeys={[pathname, setup.revision]}
            // What the section was told may be what it fell over.
            onReset={() => client.removeQueries({ type: 'inactive' })}
          >
            <Suspense fallback={<p className="p-4 text-soft">Opening …</p>}>
              <Outlet />
            </Suspense>
          </ErrorBoundary>
        </main>
      </div>
      {palette && <Palette open setOpen={setPalette} />}
      {help && <Help open setOpen={setHelp} />}
      <Tips />
      <Toaster
        position="bottom-right"
        expand
        toastOptions={{ className: '!rounded-xs !border-ink !bg-white !text-ink !font-sans !shadow-none' }}
      />
    </div>
  )
}
