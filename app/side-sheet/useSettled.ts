import { useEventListener } from '@vueuse/core'
import type { ShallowRef } from 'vue'

/** Changes that come closer together than this belong to one way through the tree. */
const QUICK = 220
/** How long after the last of them one has arrived. */
const ARRIVED = 140
/** Keys that only lead further. */
const ON_THE_WAY = /^(?:Arrow|Page|Home$|End$|Shift$|Control$|Meta$|Alt$)/

/**
 * What a heavy part follows. What a key changes it shows behind the frame that shows the key, and of many in quick succession, as when an
 * arrow is held, the last one alone; whatever else changes it shows at once. `now` catches up; so does any key that does more than lead
 * further, and a pointer that moves or comes down, so that nothing is ever done to what one has left.
 */
export function useSettled<T>(source: () => T): {
  readonly settled: Readonly<ShallowRef<T>>
  readonly now: () => void
} {
  const settled = shallowRef(source()) as ShallowRef<T>
  let changed = -Infinity
  let timer = 0
  let frame = 0
  const isPending = (): boolean => timer !== 0 || frame !== 0
  function stop(): void {
    clearTimeout(timer)
    cancelAnimationFrame(frame)
    timer = frame = 0
  }
  function now(): void {
    stop()
    settled.value = source()
  }
  watch(
    source,
    () => {
      // A pointer that chose something may be on its way into the part already.
      if (!(window.event instanceof KeyboardEvent)) return now()
      const before = changed
      changed = performance.now()
      stop()
      if (changed - before < QUICK) timer = window.setTimeout(now, ARRIVED)
      else
        frame = requestAnimationFrame(() => {
          frame = 0
          timer = window.setTimeout(now)
        })
    },
    { flush: 'sync' },
  )
  useEventListener(window, 'keydown', event => isPending() && !ON_THE_WAY.test(event.key) && now(), { capture: true })
  useEventListener(window, ['pointermove', 'pointerdown'], () => isPending() && now(), { capture: true })
  onBeforeUnmount(stop)
  return { settled, now }
}
