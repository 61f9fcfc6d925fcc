import { useEventListener, useLocalStorage } from '@vueuse/core'
import type { ComputedRef, Ref } from 'vue'
import { actionFor, keyOf } from '~/keys/keys'

/**
 * Whether what is dragged keeps its own colour or takes the one of the branch where it lands. A key, or another finger on
 * the glass, switches; the last choice holds, in this browser.
 */
export function useDragColour(isDragging: () => boolean): {
  keeps: Ref<boolean>
  toggle: () => void
  /** What the landing label says of it, with the key that switches. */
  words: ComputedRef<string>
} {
  const keeps = useLocalStorage('sun-porch-drag-keeps-colour', false)
  const toggle = (): void => {
    keeps.value = !keeps.value
  }
  // Before the keys of the page, which mean something else by the same letter.
  useEventListener(
    window,
    'keydown',
    event => {
      if (!isDragging() || actionFor('drag', event) !== 'drag-colour') return
      event.preventDefault()
      event.stopImmediatePropagation()
      if (!event.repeat) toggle()
    },
    { capture: true },
  )
  const words = computed(() => {
    const key = keyOf('drag-colour')
    return keeps.value
      ? `keeps its own colour${key && ` (${key}: takes the one there)`}`
      : `takes its colour${key && ` (${key}: keeps its own)`}`
  })
  return { keeps, toggle, words }
}
