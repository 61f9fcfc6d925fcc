import { interpolateZoom } from 'd3-interpolate'
import type { Rect } from '#core/arrange/layout'
import type { Viewport } from '~/canvas/viewport'

/** How long a glide takes at least and at most, ms. */
const TAKES = { least: 220, most: 900 } as const

/**
 * Brings a rectangle of the world whole into view, backing away first where it's far off (van Wijk and Nuij, “Smooth and
 * efficient zooming and panning”, 2003, by d3-interpolate). Whoever pushes the view meanwhile has it.
 */
export function glide(view: Viewport, to: Rect, most: number): void {
  if (view.width === 0 || view.height === 0) return
  // What was on its way gives way.
  view.stop()
  const zoom = view.zoomFor(to, most)
  const seen = view.seen()
  const centre = (rect: Rect): [number, number] => [rect.x + rect.width / 2, rect.y + rect.height / 2]
  const way = interpolateZoom([...centre(seen), seen.width], [...centre(to), view.width / zoom])
  const takes = Math.min(TAKES.most, Math.max(TAKES.least, way.duration))
  const show = (part: number): void => {
    const [x, y, width] = way(part)
    view.centreOn({ x, y, width: 0, height: 0 }, view.width / width)
  }
  if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) return show(1)
  const began = performance.now()
  let left = { x: view.x, y: view.y, zoom: view.zoom }
  const step = (now: number): void => {
    if (view.x !== left.x || view.y !== left.y || view.zoom !== left.zoom) return
    const part = Math.max(0, Math.min(1, (now - began) / takes))
    show(1 - (1 - part) ** 3)
    left = { x: view.x, y: view.y, zoom: view.zoom }
    if (part < 1) requestAnimationFrame(step)
  }
  requestAnimationFrame(step)
}
