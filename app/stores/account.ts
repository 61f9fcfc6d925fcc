import { useEventListener } from '@vueuse/core'
import { defineStore } from 'pinia'
import { forgetMemories } from '~/session/forgetting'
import { forgetAll, keepFor, waitingCount } from '~/session/offline'

export interface Me {
  readonly id: string
  readonly name: string
  readonly email: string
  /** IANA name of the zone one has chosen; null for the browser's. */
  readonly zone?: string | null
  readonly picture?: boolean
  /** Whether it's cut square instead of round. */
  readonly square?: boolean
}

const KEPT = 'sun-porch-me'
/** What isn't about anybody: it stays when somebody signs out. */
const PLAIN = ['theme']

/** Who is signed in. The last answer is kept, so that a tree opens offline too. */
export const useAccount = defineStore('account', () => {
  const me = ref<Me | null>(null)
  const asked = ref(false)
  /** Changes when one's own picture may have. */
  const pictureAt = ref(0)

  /** Why nothing that is asked of the server is answered to `me` any more: signed out elsewhere, or somebody else signed in here. */
  const ended = ref<'signed-out' | 'somebody-else' | null>(null)

  /** Whose page it was last, also where their session has ended by itself. */
  let last: string | null = null

  async function load(): Promise<void> {
    try {
      me.value = await callApi<Me>('/api/me')
      if (last !== me.value.id) forgetMemories()
      last = me.value.id
      keepFor(me.value.id)
      localStorage.setItem(KEPT, JSON.stringify(me.value))
      pictureAt.value++
    } catch (error) {
      const offline = error instanceof ApiError && error.status !== 401
      const kept = localStorage.getItem(KEPT)
      me.value = offline && kept ? (JSON.parse(kept) as Me) : null
      if (!offline) localStorage.removeItem(KEPT)
    }
    asked.value = true
    ended.value = null
  }

  /** One is signing out oneself. */
  let leaving = false
  useEventListener(window, SIGNED_OUT, () => {
    if (me.value && !leaving) ended.value = 'signed-out'
  })
  useEventListener(window, SOMEBODY_ELSE, () => {
    if (me.value) ended.value = 'somebody-else'
  })
  useEventListener(document, 'visibilitychange', () => {
    if (ended.value && document.visibilityState === 'visible') void look()
  })
  // Somebody has signed in or out in another tab.
  useEventListener(window, 'storage', ({ key }) => {
    if (key === KEPT || key === null) void look()
  })

  /** Asks whether the page is still that of whoever is signed in in this browser. */
  async function look(): Promise<void> {
    const mine = me.value?.id
    if (mine === undefined) return
    // That nobody is signed in is heard as any such answer.
    const now = await callApi<Me>('/api/me').catch(() => null)
    if (now && mine === me.value?.id) ended.value = now.id === mine ? null : 'somebody-else'
  }

  async function signIn(email: string, password: string, code?: string): Promise<void> {
    await callApi('/api/sign-in', { method: 'POST', body: { email, password, ...(code ? { code } : {}) } })
    await load()
  }

  /** `confirm`: a letter has to be answered first. */
  async function signUp(email: string, name: string, password: string): Promise<{ confirm: boolean }> {
    const answer = await callApi<{ confirm?: true }>('/api/sign-up', {
      method: 'POST',
      body: { email, name, password },
    })
    if (answer.confirm) return { confirm: true }
    await load()
    return { confirm: false }
  }

  /** Edits of one's own that this browser holds and the server hasn't. */
  const waiting = (): Promise<number> => (me.value ? waitingCount(me.value.id) : Promise.resolve(0))

  /** Whatever this browser keeps of them goes, and one stands before the door. */
  async function forget(): Promise<void> {
    const id = me.value?.id
    me.value = ended.value = null
    if (id) await forgetAll(id).catch(() => {})
    await navigateTo('/sign-in')
    await nextTick()
    // Last, since what is left behind may have kept something on its way out.
    for (const key of Object.keys(localStorage)) if (!PLAIN.includes(key)) localStorage.removeItem(key)
    sessionStorage.clear()
    forgetMemories()
  }

  async function signOut(everywhere = false): Promise<void> {
    leaving = true
    try {
      await callApi(everywhere ? '/api/sign-out-everywhere' : '/api/sign-out', { method: 'POST' })
      await forget()
    } finally {
      leaving = false
    }
  }

  return { me, asked, ended, pictureAt, load, signIn, signUp, signOut, waiting, forget }
})
