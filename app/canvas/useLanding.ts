import type { Landing } from '#core/arrange/landing'
import type { Layout } from '#core/arrange/layout'
import { labelPlace } from './landing-label'
import { useDragColour } from './useDragColour'
import type { Viewport } from './viewport'

/** Where what is dragged would land, as the canvas shows it: the slot, and its words. */
export function useLanding(layout: () => Layout, view: () => Viewport, zoom: Readonly<Ref<number>>) {
  const landing = shallowRef<Landing | null>(null)
  const colour = useDragColour(() => landing.value !== null)
  const words = computed(() => {
    const at = landing.value
    if (!at || at.by || at.slot.parent === null) return at?.words ?? ''
    return `${at.words} · ${colour.words.value}`
  })
  /** The words of a landing keep their size at any zoom, and lie over no title where there is room beside the slot. */
  const label = computed(() =>
    landing.value ? labelPlace(layout(), landing.value, words.value, zoom.value, view().seen()) : {},
  )
  const slot = computed(() => {
    const at = landing.value
    return at
      ? {
          transform: `translate(${at.rect.x}px, ${at.rect.y}px)`,
          width: `${at.rect.width}px`,
          height: `${at.rect.height}px`,
        }
      : {}
  })
  return { landing, colour, words, label, slot }
}
