import { inkOn, mix } from '#core/dress/colour'
import type { ChartLook } from '#core/figures/chart-option'
import { useEventListener } from '@vueuse/core'
import type { Desk } from '~/desk/desk'

/** The colours and the font of charts; read anew when the theme is turned. */
export function useChartLook(desk: Desk): Readonly<Ref<ChartLook>> {
  const turned = ref(0)
  useEventListener(
    () => (import.meta.client ? window : null),
    'theme-changed',
    () => turned.value++,
  )
  return computed(() => {
    void turned.value
    const style = getComputedStyle(document.documentElement)
    const of = (name: string): string => style.getPropertyValue(`--${name}`).trim()
    return {
      ink: of('ink'),
      quiet: of('quiet'),
      line: of('line'),
      surface: of('surface'),
      porch: of('porch'),
      clay: of('clay'),
      font: 'Figtree Variable, Figtree, sans-serif',
      paler: (hue, part) => mix(hue, '#ffffff', part),
      inkOn: hue => inkOn(hue),
      hueOf: id => desk.dressing.hueOf(id),
    }
  })
}
