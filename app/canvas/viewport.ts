import type { Rect } from '#core/arrange/layout'
import { meets } from '#core/arrange/place'

const ZOOMS = { least: 0.008, most: 3 } as const
/** Clear space around what is fitted or brought into view, in pixels. */
const MARGIN = { fit: 48, reveal: 40 } as const
const GLIDE_MS = 160

/**
 * What part of the canvas the screen shows: screen = world × zoom + shift. `changed` is called when it must be drawn
 * again.
 */
export class Viewport {
  x = 0
  y = 0
  zoom = 1
  width = 0
  height = 0
  private glide = 0

  constructor(private readonly changed: () => void) {}

  /** The part of the world that is in sight. */
  seen(): Rect {
    return {
      x: -this.x / this.zoom,
      y: -this.y / this.zoom,
      width: this.width / this.zoom,
      height: this.height / this.zoom,
    }
  }

  toWorld({ x, y }: { readonly x: number; readonly y: number }): { x: number; y: number } {
    return { x: (x - this.x) / this.zoom, y: (y - this.y) / this.zoom }
  }

  /** Where a rectangle of the world lies on the screen. */
  onScreen({ x, y, width, height }: Rect): Rect {
    const { zoom } = this
    return { x: x * zoom + this.x, y: y * zoom + this.y, width: width * zoom, height: height * zoom }
  }

  pan(dx: number, dy: number): void {
    cancelAnimationFrame(this.glide)
    this.x += dx
    this.y += dy
    this.changed()
  }

  /** Zooms so that the world stays put under a point of the screen. */
  zoomAt(value: number, x = this.width / 2, y = this.height / 2): void {
    cancelAnimationFrame(this.glide)
    const to = clamp(value)
    this.x = x - ((x - this.x) * to) / this.zoom
    this.y = y - ((y - this.y) * to) / this.zoom
    this.zoom = to
    this.changed()
  }

  /** Shows a rectangle whole, at 100 % at most, or as large as `most` says. */
  fit(bounds: Rect, most = 1): void {
    this.centreOn(bounds, this.zoomFor(bounds, most))
  }

  /** How large a rectangle is when it's shown whole. */
  zoomFor(bounds: Rect, most = 1): number {
    return clamp(
      Math.min(most, (this.width - MARGIN.fit * 2) / bounds.width, (this.height - MARGIN.fit * 2) / bounds.height),
    )
  }

  centreOn(rect: Rect, zoom = this.zoom): void {
    // Whoever goes somewhere isn't carried on to where a glide was going.
    cancelAnimationFrame(this.glide)
    this.zoom = zoom
    this.x = this.width / 2 - (rect.x + rect.width / 2) * zoom
    this.y = this.height / 2 - (rect.y + rect.height / 2) * zoom
    this.changed()
  }

  /** Moves just as far as a rectangle of the world needs to be wholly in sight, and under none of what lies over the view. */
  reveal(rect: Rect, over: readonly Rect[] = []): void {
    const push = (start: number, length: number, end: number): number => {
      if (start < MARGIN.reveal) return MARGIN.reveal - start
      return start + length > end - MARGIN.reveal
        ? -Math.min(start - MARGIN.reveal, start + length - end + MARGIN.reveal)
        : 0
    }
    const at = {
      x: rect.x * this.zoom + this.x,
      y: rect.y * this.zoom + this.y,
      width: rect.width * this.zoom,
      height: rect.height * this.zoom,
    }
    const inSight = { dx: push(at.x, at.width, this.width), dy: push(at.y, at.height, this.height) }
    const { dx, dy } = clearOf(at, inSight, over, this)
    if (dx !== 0 || dy !== 0) this.glideTo(this.x + dx, this.y + dy)
  }

  /** Goes there so that the eye can follow, or at once for those who want less motion. */
  private glideTo(x: number, y: number): void {
    cancelAnimationFrame(this.glide)
    const from = { x: this.x, y: this.y }
    const began = performance.now()
    const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches
    const step = (now: number): void => {
      const part = still ? 1 : Math.min(1, (now - began) / GLIDE_MS)
      const eased = 1 - (1 - part) ** 3
      this.x = from.x + (x - from.x) * eased
      this.y = from.y + (y - from.y) * eased
      this.changed()
      if (part < 1) this.glide = requestAnimationFrame(step)
    }
    this.glide = requestAnimationFrame(step)
  }

  stop(): void {
    cancelAnimationFrame(this.glide)
  }
}

function clamp(zoom: number): number {
  return Math.min(ZOOMS.most, Math.max(ZOOMS.least, zoom))
}

/** Clear space between what is brought into view and what lies over the view, px. */
const CLEAR = 8

/** The shortest way from where a rectangle would be brought to where nothing lies over it; there, when there is no such place. */
function clearOf(
  at: Rect,
  there: { dx: number; dy: number },
  over: readonly Rect[],
  { width, height }: { readonly width: number; readonly height: number },
): { dx: number; dy: number } {
  const isClear = ({ dx, dy }: typeof there): boolean =>
    !over.some(one => meets(one, { ...at, x: at.x + dx, y: at.y + dy }))
  if (isClear(there)) return there
  const acrosses = over.flatMap(one => [one.x - at.width - CLEAR - at.x, one.x + one.width + CLEAR - at.x])
  const downs = over.flatMap(one => [one.y - at.height - CLEAR - at.y, one.y + one.height + CLEAR - at.y])
  const ways = [there.dx, ...acrosses].flatMap(dx => [there.dy, ...downs].map(dy => ({ dx, dy })))
  const inside = ({ dx, dy }: typeof there): boolean =>
    at.x + dx >= 0 && at.y + dy >= 0 && at.x + at.width + dx <= width && at.y + at.height + dy <= height
  const length = ({ dx, dy }: typeof there): number => Math.hypot(dx - there.dx, dy - there.dy)
  const best = ways.filter(way => inside(way) && isClear(way)).sort((a, b) => length(a) - length(b))[0]
  return best ?? there
}
