import { PanelLeftOpen } from 'lucide-react'
import { useEffect, useEffectEvent, useState } from 'react'
import { Outlet } from 'react-router'
import { Toaster } from 'sonner'
import { useWorkshop } from '../api/setup'
import { Bench } from '../bench/bench'
import { Help } from './help'
import { Palette } from './palette'
import { TopBar } from './top-bar'

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName))
  )
}

/** Whether the field holds text that is not stored yet: then Ctrl+Z belongs to the field. */
function isFieldOfText(target: EventTarget | null): boolean {
  return target instanceof HTMLInputElement && target.defaultValue !== target.value
}

/** The frame around every section: bar on top, bench on the left. */
export function Shell() {
  const { undo, redo } = useWorkshop()
  const [palette, setPalette] = useState(false)
  const [help, setHelp] = useState(false)
  const [bench, setBench] = useState(true)

  const keys = useEffectEvent((event: KeyboardEvent) => {
    const command = event.ctrlKey || event.metaKey
    if (command && event.key.toLowerCase() === 'k') {
      event.preventDefault()
      setPalette(!palette)
    } else if (command && event.key.toLowerCase() === 'z' && !isFieldOfText(event.target)) {
      event.preventDefault()
      void (event.shiftKey ? redo() : undo())
    } else if (!command && !event.altKey && !isTyping(event.target) && !palette && !help) {
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
    <div className="relative flex h-dvh flex-col overflow-hidden">
      <a href="#section" className="sr-only z-50 bg-white p-2 focus:not-sr-only focus:absolute">
        To the section
      </a>
      <TopBar palette={() => setPalette(true)} help={() => setHelp(true)} />
      <div className="flex min-h-0 flex-1 flex-col overflow-auto lg:flex-row lg:overflow-hidden">
        {bench ? (
          <Bench collapse={() => setBench(false)} />
        ) : (
          <button
            type="button"
            className="flex items-start border-r border-ink bg-sheet p-2"
            aria-label="Show the bench"
            title="Show the bench (b)"
            onClick={() => setBench(true)}
          >
            <PanelLeftOpen size={16} aria-hidden />
          </button>
        )}
        <main id="section" tabIndex={-1} className="relative min-w-0 flex-1 lg:overflow-y-auto">
          <Outlet />
        </main>
      </div>
      <Palette open={palette} setOpen={setPalette} />
      <Help open={help} setOpen={setHelp} />
      <Toaster
        position="bottom-right"
        toastOptions={{ className: '!rounded-xs !border-ink !bg-white !text-ink !font-sans !shadow-none' }}
      />
    </div>
  )
}
