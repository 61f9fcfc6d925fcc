/** What one part of the account page asks of the server, and what came of it, in words. */
export function useAccountPart() {
  const { busy, wrong, attempt: run } = useAttempt()
  const said = ref('')
  /** `done`: what to say when it went well. Resolves to whether it did. */
  async function attempt(work: () => Promise<unknown>, done = ''): Promise<boolean> {
    said.value = ''
    await run(work)
    if (wrong.value === '') said.value = done
    return wrong.value === ''
  }
  return { said, wrong, busy, attempt }
}

export interface AccountView {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly zone: string | null
  readonly picture: boolean
  readonly square: boolean
  /** False where only an organisation's sign-in opens it. */
  readonly hasPassword: boolean
  /** The name of the organisation whose sign-in opens it too. */
  readonly organisation: string | null
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
