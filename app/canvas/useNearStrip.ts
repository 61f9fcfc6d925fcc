import { firstFree } from '#core/arrange/free'
import type { Layout } from '#core/arrange/layout'
import type { Direction, Rect } from '#core/arrange/place'
import type { TopicId } from '#core/tree'

const REST_MS = 450
/** The strip's own size, its gap to the plank, and how far beside both the pointer may stray, in pixels. */
const STRIP = { width: 126, height: 29, gap: 7, margin: 8 } as const

/**
 * Whether the strip by the selection shows: once the pointer has rested on the focused plank for a moment, and as long
 * as it stays there or on the way to the strip. A key hides it, so that it never lies over what somebody goes on to
 * click. A thumb has a bar of its own.
 */
export function useNearStrip(
  focused: () => Rect | undefined,
  zoom: () => number,
  place: () => { readonly x: number; readonly y: number } | null,
) {
  const near = ref(false)
  let rest = 0

  /** Between the plank and the strip, wherever that stands, and a little around both. */
  function isOnTheWay(to: { readonly x: number; readonly y: number }, at: Rect): boolean {
    const margin = STRIP.margin / zoom()
    const strip = place() ?? { x: at.x, y: at.y + at.height }
    return (
      to.x > Math.min(at.x, strip.x) - margin &&
      to.y > Math.min(at.y, strip.y) - margin &&
      to.x < Math.max(at.x + at.width, strip.x + STRIP.width / zoom()) + margin &&
      to.y < Math.max(at.y + at.height, strip.y + STRIP.height / zoom()) + margin
    )
  }

  function hide(): void {
    clearTimeout(rest)
    near.value = false
  }

  /** The pointer is here, in canvas units. */
  function approach({ x, y }: { readonly x: number; readonly y: number }): void {
    const at = focused()
    const on = at !== undefined && x > at.x && y > at.y && x < at.x + at.width && y < at.y + at.height
    if (near.value) {
      near.value = on || (at !== undefined && isOnTheWay({ x, y }, at))
      return
    }
    clearTimeout(rest)
    if (on)
      rest = window.setTimeout(() => {
        near.value = true
      }, REST_MS)
  }

  onMounted(() => window.addEventListener('keydown', hide))
  onBeforeUnmount(() => {
    window.removeEventListener('keydown', hide)
    clearTimeout(rest)
  })
  return { approach, shows: near }
}

interface Focused extends Rect {
  readonly id: TopicId
  readonly direction: Direction
}

/**
 * The upper left corner of the strip, in canvas units: below the plank, above it or beyond its outer end, wherever it lies
 * over no other plank; null where there is no room.
 */
export function stripPlace(layout: Layout, focused: Focused, zoom: number): { x: number; y: number } | null {
  const { x, y, width, height, direction, id } = focused
  const [wide, high, gap] = [STRIP.width / zoom, STRIP.height / zoom, STRIP.gap]
  const flush = direction === 'left' ? x + width - wide : x
  const outer = direction === 'left' ? x - wide - gap : x + width + gap
  const places = [
    { x: flush, y: y + height + gap },
    { x: flush, y: y - high - gap },
    { x: outer, y: y + height / 2 - high / 2 },
    { x: outer, y: y + height + gap },
    { x: outer, y: y - high - gap },
  ]
  return firstFree(
    layout,
    places.map(place => ({ ...place, width: wide, height: high })),
    one => one === id,
  )
}
