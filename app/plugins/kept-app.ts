/** How often an open page asks whether there is a newer Sun Porch. */
const ASK_MS = 60 * 60_000

/**
 * The browser keeps the app itself, so that a closed tab opens again without a line. A newer one is announced and waits
 * until it's taken up: nothing is loaded anew under anybody's typing.
 */
export default defineNuxtPlugin(() => {
  const newer = useNewerApp()
  // Not while developing, nor on an address without TLS that isn't this machine's own.
  if (import.meta.dev || !('serviceWorker' in navigator)) return
  const begin = async (): Promise<void> => {
    const { Workbox } = await import('workbox-window')
    const app = new Workbox('/sw.js', { updateViaCache: 'none' })
    let asked = false
    app.addEventListener('waiting', () => {
      newer.value = {
        take: () => {
          asked = true
          app.messageSkipWaiting()
        },
      }
    })
    app.addEventListener('controlling', () => {
      if (asked) location.reload()
    })
    await app.register()
    setInterval(() => void app.update().catch(() => {}), ASK_MS)
  }
  // What is kept may not be in the way of the first look.
  const calm = (): void =>
    void setTimeout(() => requestIdleCallback(() => void begin().catch(() => {}), { timeout: 10_000 }), 3000)
  if (document.readyState === 'complete') calm()
  else addEventListener('load', calm, { once: true })
})
