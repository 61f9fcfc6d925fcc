import { describe, expect, inject, it } from 'vitest'
import { Caller, newId, signUp } from '../caller'

const url = inject('url')

describe('an access token', () => {
  it('does what its scope says in somebody’s name, never reaches the account, and ends when withdrawn', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    const make = async (scope: 'read' | 'write') =>
      (await ines.call<{ id: string; token: string }>('POST', '/api/account/tokens', { name: scope, scope, days: 30 }))
        .data
    const [read, write] = [await make('read'), await make('write')]
    const by = (token: string) => {
      const script = new Caller(url)
      return (method: string, path: string, body?: unknown) =>
        script.call<{ error?: { code: string }; number?: number }>(method, path, body, {
          authorization: `Bearer ${token}`,
        })
    }
    const edit = { id: newId(), changes: [{ op: 'add', topic: 'a', parent: null, order: 'a0' }] }
    expect((await by(read.token)('GET', `/api/trees/${tree}`)).status).toBe(200)
    expect((await by(read.token)('POST', `/api/trees/${tree}/edits`, edit)).data.error?.code).toBe('scope')
    expect((await by(write.token)('POST', `/api/trees/${tree}/edits`, edit)).data.number).toBe(1)
    // The log keeps that it was a script, and on whose behalf.
    const { data } = await ines.call<{ edits: { user: string; actor?: string; behalf?: string }[] }>(
      'GET',
      `/api/trees/${tree}/edits`,
    )
    expect(data.edits.at(-1)).toMatchObject({ user: write.id, actor: 'token', behalf: ines.id })
    for (const path of ['/api/account', '/api/account/data'])
      expect((await by(write.token)('GET', path)).data.error?.code).toBe('token')
    expect((await by(write.token)('POST', '/api/sign-out-everywhere', {})).data.error?.code).toBe('token')
    const line = ines.line(tree, { cookie: '', authorization: `Bearer ${write.token}` })
    await line.until(() => line.closed !== null)
    expect(line.refusedStatus).toBe(403)
    await ines.call('DELETE', `/api/account/tokens/${write.id}`)
    expect((await by(write.token)('GET', `/api/trees/${tree}`)).status).toBe(401)
    // Where a token is shown, a cookie beside it doesn’t count.
    const both = await ines.call('GET', '/api/me', undefined, { authorization: `Bearer ${write.token}` })
    expect(both.status).toBe(401)
  })
})
