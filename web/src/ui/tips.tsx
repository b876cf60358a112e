import { lazy, Suspense, useEffect, useState } from 'react'

const Shown = lazy(() => import('./tip-shown'))

/** What is written in a cell of a sheet, where it is cut short. */
function cutIn({ target }: Event): HTMLElement | null {
  const cell = target instanceof Element ? target.closest('[data-cell]') : null
  const text = cell?.querySelector<HTMLElement>('.truncate[data-tip]')
  return text && text.scrollWidth > text.clientWidth ? text : null
}

/** How long the pointer rests on something before its tip comes, in milliseconds. */
const REST = 500

export interface Tip {
  target: HTMLElement
  text: string
}

/**
 * Says of what is pointed at or has the focus what its `data-tip` holds: the name of a button that is only a drawing, or
 * the whole of a text that is cut short. Escape puts it away.
 */
export function Tips() {
  const [tip, setTip] = useState<Tip | null>(null)
  useEffect(() => {
    let timer: number | undefined
    let shown: HTMLElement | null = null
    const of = ({ target }: Event) =>
      target instanceof Element ? target.closest<HTMLElement>('[data-tip]') : null
    const show = (target: HTMLElement) => {
      shown = target
      setTip({ target, text: target.dataset.tip ?? '' })
    }
    const leave = () => {
      clearTimeout(timer)
      shown = null
      setTip(null)
    }
    const point = (event: PointerEvent) => {
      if (event.pointerType === 'touch') return
      const target = of(event)
      // The tip itself can be pointed at without its going away.
      if (event.target instanceof Element && event.target.closest('[data-tip-shown]')) return
      if (target && target === shown) return
      leave()
      if (target) timer = window.setTimeout(() => show(target), REST)
    }
    const focus = (event: FocusEvent) => {
      const own = of(event)
      const cut = own ? null : cutIn(event)
      if (own?.matches(':focus-visible')) show(own)
      else if (cut?.closest('[data-cell]')?.matches(':focus-visible')) show(cut)
      else leave()
    }
    const key = (event: KeyboardEvent) => event.key === 'Escape' && leave()
    addEventListener('pointerover', point)
    addEventListener('pointerdown', leave)
    addEventListener('focusin', focus)
    addEventListener('focusout', leave)
    addEventListener('keydown', key)
    addEventListener('scroll', leave, true)
    return () => {
      clearTimeout(timer)
      removeEventListener('pointerover', point)
      removeEventListener('pointerdown', leave)
      removeEventListener('focusin', focus)
      removeEventListener('focusout', leave)
      removeEventListener('keydown', key)
      removeEventListener('scroll', leave, true)
    }
  }, [])
  return tip?.text && tip.target.isConnected ? (
    <Suspense>
      <Shown key={tip.text} {...tip} />
    </Suspense>
  ) : null
}
