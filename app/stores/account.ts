import { defineStore } from 'pinia'

export interface Me {
  readonly id: string
  readonly name: string
  readonly email: string
}

const KEPT = 'sun-porch-me'

/** Who is signed in. The last answer is kept, so that a tree opens offline too. */
export const useAccount = defineStore('account', () => {
  const me = ref<Me | null>(null)
  const asked = ref(false)

  async function load(): Promise<void> {
    try {
      me.value = await callApi<Me>('/api/me')
      localStorage.setItem(KEPT, JSON.stringify(me.value))
    } catch (error) {
      const offline = error instanceof ApiError && error.status !== 401
      const kept = localStorage.getItem(KEPT)
      me.value = offline && kept ? (JSON.parse(kept) as Me) : null
      if (!offline) localStorage.removeItem(KEPT)
    }
    asked.value = true
  }

  async function signIn(email: string, password: string): Promise<void> {
    await callApi('/api/sign-in', { method: 'POST', body: { email, password } })
    await load()
  }

  async function signUp(email: string, name: string, password: string): Promise<void> {
    await callApi('/api/sign-up', { method: 'POST', body: { email, name, password } })
    await load()
  }

  async function signOut(everywhere = false): Promise<void> {
    await callApi(everywhere ? '/api/sign-out-everywhere' : '/api/sign-out', { method: 'POST' })
    localStorage.removeItem(KEPT)
    me.value = null
  }

  return { me, asked, load, signIn, signUp, signOut }
})
