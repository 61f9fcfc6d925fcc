import { defineStore } from 'pinia'
import type { ToldCount, TidingsPage } from '#core/contract'
import { grouped, tidingsInWords, tidingsLink } from '#core/telling/grouped'

const RINGS = 'sun-porch-rings'
/** Messages that ring at once; more of them are counted. */
const MOST_RINGS = 3

/** What one was told and hasn't read: its count, and the ringing of this browser. */
export const useTold = defineStore('told', () => {
  const count = ref(0)
  const newest = ref(0)
  /** Whether this browser shows messages of its own; kept for this browser alone. */
  const rings = ref(localStorage.getItem(RINGS) === 'yes')
  let first = true
  let asked = 0
  // What one was told is nobody else's who sits down here.
  watch(
    () => useAccount().me?.id,
    () => {
      asked++
      first = true
      count.value = newest.value = 0
      rings.value = localStorage.getItem(RINGS) === 'yes'
    },
  )

  /** Asks how much there is. What came since the last asking rings, if that's wanted. */
  async function refresh(): Promise<void> {
    const mine = ++asked
    const found = await callApi<ToldCount>('/api/told/count', first ? { query: { zone: browserZone() } } : {}).catch(
      () => null,
    )
    // An answer that was overtaken by a later question is nobody's.
    if (!found || mine !== asked) return
    const before = newest.value
    count.value = found.count
    newest.value = Math.max(before, found.newest)
    if (!first && found.newest > before && !found.quiet) void ring(before)
    first = false
  }

  async function ring(after: number): Promise<void> {
    if (!rings.value || !('Notification' in window) || Notification.permission !== 'granted') return
    // Who looks at the page sees it.
    if (document.visibilityState === 'visible' && document.hasFocus()) return
    const page = await callApi<TidingsPage>('/api/told').catch(() => null)
    const fresh = grouped((page?.all ?? []).filter(({ id, read, loud }) => id > after && !read && loud))
    for (const group of fresh.slice(0, MOST_RINGS)) {
      const message = new Notification(tidingsInWords(group), {
        body: group.all[0]!.said?.words ?? group.all[0]!.tree.title,
        // Said once, however many tabs are open.
        tag: `told-${group.all[0]!.id}`,
      })
      message.onclick = () => {
        window.focus()
        void navigateTo(tidingsLink(group))
        message.close()
      }
    }
  }

  /** Lets this browser ring, after asking it; or not. Returns why not, in words. */
  async function setRings(to: boolean): Promise<string> {
    if (to) {
      if (!('Notification' in window)) return 'This browser can’t show messages.'
      if ((await Notification.requestPermission()) !== 'granted')
        return 'This browser doesn’t allow messages from here. Its settings say where that can be changed.'
    }
    rings.value = to
    localStorage.setItem(RINGS, to ? 'yes' : 'no')
    return ''
  }

  /** Marks as read, here and on every other device. */
  async function read(
    which: { ids: readonly number[] } | { upTo: number } | { tree: string; topic?: string },
  ): Promise<void> {
    await callApi('/api/told/read', { method: 'POST', body: which })
    await refresh()
  }

  return { count, rings, refresh, setRings, read }
})
