import { select } from 'd3-selection'
import { zoom, zoomIdentity, type ZoomBehavior } from 'd3-zoom'
import { useEffect, useRef, useState, type RefObject } from 'react'

export const WIDTH = 960
export const HEIGHT = 440
const MOST = 24
/** How far one step of the keys goes, of what is in sight. */
const STEP = 0.25

export interface View {
  x: number
  y: number
  k: number
}

/**
 * Pans and zooms what is drawn in an SVG of WIDTH by HEIGHT: by dragging, with two fingers, with the wheel and Ctrl, or
 * from code. While the whole drawing is in sight, one finger scrolls the page.
 */
export function useZoom(svg: RefObject<SVGSVGElement | null>) {
  const [view, setView] = useState<View>(zoomIdentity)
  const behaviour = useRef<ZoomBehavior<SVGSVGElement, unknown>>(null)
  useEffect(() => {
    const element = svg.current
    if (!element) return
    const made = zoom<SVGSVGElement, unknown>()
      .extent([
        [0, 0],
        [WIDTH, HEIGHT],
      ])
      .translateExtent([
        [0, 0],
        [WIDTH, HEIGHT],
      ])
      .scaleExtent([1, MOST])
      .filter((event: MouseEvent | WheelEvent | TouchEvent) => {
        if (event.type === 'wheel') return event.ctrlKey
        if ('touches' in event) return event.touches.length > 1 || element.dataset['zoomed'] === 'true'
        return event.button === 0 && event.type !== 'dblclick'
      })
      .on('zoom', ({ transform }: { transform: View }) => setView(transform))
    behaviour.current = made
    const selection = select(element).call(made)
    return () => void selection.on('.zoom', null)
  }, [svg])

  const act = (action: (made: ZoomBehavior<SVGSVGElement, unknown>, of: SVGSVGElement) => void) => {
    if (behaviour.current && svg.current) action(behaviour.current, svg.current)
  }
  return {
    view,
    zoomBy: (factor: number) => act((made, of) => made.scaleBy(select(of), factor)),
    /** By so many steps across and down. */
    pan: (across: number, down: number) =>
      act((made, of) =>
        made.translateBy(select(of), (-across * STEP * WIDTH) / view.k, (-down * STEP * HEIGHT) / view.k),
      ),
    /** A point into the middle, at this scale. */
    show: (x: number, y: number, scale: number) =>
      act((made, of) =>
        made.transform(
          select(of),
          zoomIdentity
            .translate(WIDTH / 2, HEIGHT / 2)
            .scale(scale)
            .translate(-x, -y),
        ),
      ),
    whole: () => act((made, of) => made.transform(select(of), zoomIdentity)),
    /** Whether a point can be seen. */
    inSight: (x: number, y: number) => {
      const [across, down] = [x * view.k + view.x, y * view.k + view.y]
      return across >= 0 && across <= WIDTH && down >= 0 && down <= HEIGHT
    },
  }
}
