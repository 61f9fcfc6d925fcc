import type { Rect } from '#core/arrange/place'

const REST_MS = 450
/** The strip's own size, and how far below a plank it reaches, in pixels. */
const STRIP = { width: 126, reach: 44, margin: 8 } as const

/**
 * Whether the strip by the selection shows: once the pointer has rested on the focused plank for a moment, and as long
 * as it stays there or on the way to the strip. A key hides it, so that it never lies over what somebody goes on to
 * click. By touch it just stays.
 */
export function useNearStrip(focused: () => Rect | undefined, zoom: () => number) {
  const near = ref(false)
  const coarse = window.matchMedia('(pointer: coarse)').matches
  let rest = 0

  function hide(): void {
    clearTimeout(rest)
    near.value = false
  }

  /** The pointer is here, in canvas units. */
  function approach({ x, y }: { readonly x: number; readonly y: number }): void {
    const at = focused()
    const on = at !== undefined && x > at.x && y > at.y && x < at.x + at.width && y < at.y + at.height
    if (near.value) {
      const margin = STRIP.margin / zoom()
      near.value =
        on ||
        (at !== undefined &&
          x > at.x - margin &&
          y > at.y - margin &&
          y < at.y + at.height + STRIP.reach / zoom() &&
          x < at.x + Math.max(at.width, STRIP.width / zoom()) + margin)
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
  return { approach, shows: computed(() => near.value || coarse) }
}
