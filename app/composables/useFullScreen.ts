import { useEventListener } from '@vueuse/core'

/** The page over the whole screen, until it's asked for no more or whatever uses this goes. `say`: where the browser doesn't let it. */
export function useFullScreen(say: (words: string) => void) {
  const full = ref(document.fullscreenElement !== null)
  useEventListener(document, 'fullscreenchange', () => {
    full.value = document.fullscreenElement !== null
  })
  const leave = (): void => {
    if (document.fullscreenElement) void document.exitFullscreen()
  }
  onBeforeUnmount(leave)
  return {
    full,
    async fill(): Promise<void> {
      try {
        if (document.fullscreenElement) await document.exitFullscreen()
        else await document.documentElement.requestFullscreen()
      } catch {
        say('This browser doesn’t let the page fill the screen.')
      }
    },
  }
}
