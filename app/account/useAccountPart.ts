/** What one part of the account page asks of the server, and what came of it, in words. */
export function useAccountPart() {
  const said = ref('')
  const wrong = ref('')
  const busy = ref(false)
  async function attempt(what: () => Promise<unknown>, done = ''): Promise<boolean> {
    said.value = wrong.value = ''
    busy.value = true
    try {
      await what()
      said.value = done
      return true
    } catch (error) {
      wrong.value = error instanceof Error ? error.message.replace(/^body\.\w+: /, '') : 'Something went wrong.'
      return false
    } finally {
      busy.value = false
    }
  }
  return { said, wrong, busy, attempt }
}

export interface AccountView {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly zone: string | null
  readonly picture: boolean
  readonly secondFactor: boolean
  readonly recoveryLeft: number
  readonly sessions: readonly { id: string; agent: string; since: string; seen: string; own: boolean }[]
  readonly tokens: readonly {
    id: string
    name: string
    scope: 'read' | 'write'
    made: string
    used: string | null
    until: string | null
  }[]
}
