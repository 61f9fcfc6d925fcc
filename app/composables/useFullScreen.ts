import { useEventListener } from '@vueuse/core'

/** The page over the whole screen, until it's asked for no more or whatever uses this goes. `say`: where the browser doesn't let it. */
export function useFullScreen(say: (words: string) => void) {
  const full = ref(document.fullscreenElement !== null)
  useEventListener(document, 'fullscreenchange', () => {
    full.value = document.fullscreenElement !== null
  })
  const leave = async (): Promise<void> => {
    if (document.fullscreenElement) await document.exitFullscreen()
  }
  let isGone = false
  onBeforeUnmount(() => {
    isGone = true
    void leave()
  })

  /** False where the browser doesn't let it. */
  async function enter(): Promise<boolean> {
    try {
      await document.documentElement.requestFullscreen()
    } catch {
      return false
    }
    // It takes a moment, in which a fast hand has left already.
    if (isGone) await leave()
    return true
  }
  return {
    full,
    enter,
    async fill(): Promise<void> {
      if (document.fullscreenElement) await leave()
      else if (!(await enter())) say('This browser doesn’t let the page fill the screen.')
    },
  }
}
