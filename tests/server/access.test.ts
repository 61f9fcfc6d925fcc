import { beforeAll, describe, expect, inject, it } from 'vitest'
import { OPERATIONS, openApi, type Operation } from '../../core/contract'
import { bringIn, Caller, signUp } from '../caller'

const url = inject('url')

describe('accounts', () => {
  it('sign up, in, out; the cookie is HttpOnly and SameSite', async () => {
    const ines = await signUp(url)
    expect((await ines.call<{ email: string }>('GET', '/api/me')).data.email).toBe(ines.email)
    const again = new Caller(url)
    const signedIn = await again.call('POST', '/api/sign-in', {
      email: ines.email.toUpperCase(),
      password: 'a long enough one',
    })
    expect(signedIn.status).toBe(200)
    expect(signedIn.headers.getSetCookie().join()).toMatch(/HttpOnly.*SameSite=Lax/)
    await again.call('POST', '/api/sign-out')
    expect(await again.refusal('GET', '/api/me')).toBe('401 sign-in')
    expect((await ines.call('GET', '/api/me')).status).toBe(200)
  })

  it('a stolen cookie is worthless after signing out', async () => {
    const ines = await signUp(url)
    const stolen = new Caller(url)
    stolen.cookie = ines.cookie
    await ines.call('POST', '/api/sign-out')
    expect(await stolen.refusal('GET', '/api/me')).toBe('401 sign-in')
  })

  it('signing out everywhere ends every session and cuts live lines', async () => {
    const ines = await signUp(url)
    const other = new Caller(url)
    await other.call('POST', '/api/sign-in', { email: ines.email, password: 'a long enough one' })
    const tree = await ines.makeTree()
    const line = other.line(tree)
    await line.hello(0)
    await ines.call('POST', '/api/sign-out-everywhere')
    await line.until(() => line.closed !== null)
    expect(line.of('gone')[0]?.code).toBe('signed-out')
    expect(await other.refusal('GET', '/api/me')).toBe('401 sign-in')
  })

  it('refuses a mail address that has an account, short passwords and odd input', async () => {
    const ines = await signUp(url)
    const somebody = new Caller(url)
    expect(
      await somebody.refusal('POST', '/api/sign-up', { email: ines.email, name: 'X', password: 'a long enough one' }),
    ).toBe('409 taken')
    expect(await somebody.refusal('POST', '/api/sign-up', { email: 'a@b.example', name: 'X', password: 'short' })).toBe(
      '400 invalid',
    )
    expect(
      await somebody.refusal('POST', '/api/sign-up', { email: 'not mail', name: 'X', password: 'a long enough one' }),
    ).toBe('400 invalid')
    expect(
      await somebody.refusal('POST', '/api/sign-up', {
        email: 'a@b.example',
        name: 'X',
        password: 'a long enough one',
        role: 'owner',
      }),
    ).toBe('400 invalid')
    expect(await somebody.refusal('POST', '/api/sign-up', '{')).toBe('400 not-json')
    expect(await somebody.refusal('POST', '/api/sign-up', 'a=b', { 'content-type': 'text/plain' })).toBe('415 not-json')
  })

  it('slows guessing for the account, and lets the owner in again after the wait', async () => {
    const ines = await signUp(url)
    const thief = new Caller(url)
    for (let i = 0; i < 5; i++)
      expect(await thief.refusal('POST', '/api/sign-in', { email: ines.email, password: `guess ${i}` })).toBe(
        '401 wrong',
      )
    const slowed = await thief.call<{ error: { code: string; details: { seconds: number } } }>('POST', '/api/sign-in', {
      email: ines.email,
      password: 'a long enough one',
    })
    expect([slowed.status, slowed.data.error.code]).toEqual([429, 'slowed'])
    await new Promise(done => setTimeout(done, slowed.data.error.details.seconds * 1000 + 50))
    expect(
      (await thief.call('POST', '/api/sign-in', { email: ines.email, password: 'a long enough one' })).status,
    ).toBe(200)
  })

  it('looks at no more of 200 guesses at once than of so many one after the other', async () => {
    const ines = await signUp(url)
    const answers = await Promise.all(
      Array.from({ length: 200 }, (_, i) =>
        new Caller(url).refusal('POST', '/api/sign-in', { email: ines.email, password: `guess ${i}` }),
      ),
    )
    // Five, and one more for each wait that passes meanwhile.
    const looked = answers.filter(said => said === '401 wrong').length
    expect(looked).toBeGreaterThanOrEqual(5)
    expect(looked).toBeLessThanOrEqual(8)
    expect(answers.filter(said => said === '429 slowed')).toHaveLength(200 - looked)
  })

  it('takes a request’s own word for where it comes from only behind a proxy', async () => {
    const ines = await signUp(url)
    for (let i = 0; i < 5; i++)
      await new Caller(url).refusal(
        'POST',
        '/api/sign-in',
        { email: ines.email, password: `guess ${i}` },
        { 'x-forwarded-for': `192.0.2.${i}` },
      )
    expect(
      await new Caller(url).refusal(
        'POST',
        '/api/sign-in',
        { email: ines.email, password: 'guess' },
        { 'x-forwarded-for': '192.0.2.77' },
      ),
    ).toBe('429 slowed')
  })

  it('says the same of a missing account and a wrong password', async () => {
    expect(
      await new Caller(url).refusal('POST', '/api/sign-in', { email: 'nobody@porch.example', password: 'x' }),
    ).toBe('401 wrong')
  })
})

describe('roles', () => {
  const people: Record<string, Caller> = {}
  let tree = ''
  let centre = ''
  beforeAll(async () => {
    people.owner = await signUp(url, 'Olga')
    tree = await people.owner.makeTree()
    centre = (await people.owner.open(tree)).snapshot.centre
    for (const role of ['viewer', 'commenter', 'editor'] as const) {
      people[role] = await signUp(url, role)
      await bringIn(people.owner, tree, people[role]!, role)
    }
    people.stranger = await signUp(url, 'Stranger')
    people.nobody = new Caller(url)
  })

  const expected: [string, string, unknown, Record<string, number>][] = [
    [
      'GET',
      '/api/trees/{tree}',
      undefined,
      { viewer: 200, commenter: 200, editor: 200, owner: 200, stranger: 404, nobody: 401 },
    ],
    [
      'GET',
      '/api/trees/{tree}/edits',
      undefined,
      { viewer: 200, commenter: 200, editor: 200, owner: 200, stranger: 404, nobody: 401 },
    ],
    [
      'GET',
      '/api/trees/{tree}/members',
      undefined,
      { viewer: 200, commenter: 200, editor: 200, owner: 200, stranger: 404, nobody: 401 },
    ],
    [
      'GET',
      '/api/trees/{tree}/export/markdown',
      undefined,
      { viewer: 200, commenter: 200, editor: 200, owner: 200, stranger: 404, nobody: 401 },
    ],
    [
      'POST',
      '/api/trees/{tree}/seen',
      { version: 0 },
      { viewer: 200, commenter: 200, editor: 200, owner: 200, stranger: 404, nobody: 401 },
    ],
    [
      'PATCH',
      '/api/trees/{tree}',
      { title: 'Renamed' },
      { viewer: 403, commenter: 403, editor: 200, owner: 200, stranger: 404, nobody: 401 },
    ],
    [
      'POST',
      '/api/trees/{tree}/invitations',
      { email: 'x@porch.example', role: 'viewer' },
      { viewer: 403, commenter: 403, editor: 403, owner: 200, stranger: 404, nobody: 401 },
    ],
    [
      'PUT',
      '/api/trees/{tree}/members/{viewer}',
      { role: 'viewer' },
      { viewer: 403, commenter: 403, editor: 403, owner: 200, stranger: 404, nobody: 401 },
    ],
    [
      'DELETE',
      '/api/trees/{tree}/members/{owner}',
      undefined,
      { viewer: 403, commenter: 403, editor: 403, owner: 409, stranger: 404, nobody: 401 },
    ],
    [
      'POST',
      '/api/trees/{tree}/restore',
      {},
      { viewer: 403, commenter: 403, editor: 403, owner: 200, stranger: 404, nobody: 401 },
    ],
  ]
  it.each(expected)('%s %s', async (method, path, body, statuses) => {
    const real = path
      .replace('{tree}', tree)
      .replace('{viewer}', people.viewer!.id)
      .replace('{owner}', people.owner!.id)
    for (const [who, status] of Object.entries(statuses))
      expect([who, (await people[who]!.call(method, real, body)).status]).toEqual([who, status])
  })

  it('edits: by editors and owners alone, by REST and by the live line', async () => {
    const statuses: Record<string, number> = {}
    for (const [who, caller] of Object.entries(people))
      statuses[who] = (await caller.tryEdit(tree, [{ op: 'set', topic: centre, field: 'title', value: who }])).status
    expect(statuses).toEqual({ viewer: 403, commenter: 403, editor: 200, owner: 200, stranger: 404, nobody: 401 })
    const line = people.viewer!.line(tree)
    await line.hello(0)
    line.say({
      type: 'edit',
      edit: { id: 'by-viewer', changes: [{ op: 'set', topic: centre, field: 'title', value: 'viewer' }] },
    })
    await line.until(() => line.of('refused').length > 0)
    expect(line.of('refused')[0]).toMatchObject({ edit: 'by-viewer', code: 'role' })
    await line.close()
    for (const who of ['stranger', 'nobody']) {
      const refused = people[who]!.line(tree)
      await refused.until(() => refused.closed !== null)
      expect(refused.refusedStatus).toBe(who === 'nobody' ? 401 : 404)
    }
  })

  it('a right taken away cuts the live line at once; a lesser one is told', async () => {
    const guest = await signUp(url)
    await bringIn(people.owner!, tree, guest, 'editor')
    const line = guest.line(tree)
    await line.hello(0)
    await people.owner!.call('PUT', `/api/trees/${tree}/members/${guest.id}`, { role: 'viewer' })
    await line.until(() => line.of('role').length > 0)
    expect(line.of('role')[0]!.role).toBe('viewer')
    await people.owner!.call('DELETE', `/api/trees/${tree}/members/${guest.id}`)
    await line.until(() => line.closed !== null)
    expect(line.of('gone')[0]!.code).toBe('no-role')
    expect(await guest.refusal('GET', `/api/trees/${tree}`)).toBe('404 no-tree')
  })

  it('a tree keeps an owner', async () => {
    expect(
      await people.owner!.refusal('PUT', `/api/trees/${tree}/members/${people.owner!.id}`, { role: 'editor' }),
    ).toBe('409 last-owner')
  })

  it('an invitation serves the invited alone, once', async () => {
    const guest = await signUp(url)
    await people.owner!.call('POST', `/api/trees/${tree}/invitations`, { email: guest.email, role: 'viewer' })
    const { data: letters } = await guest.call<{ link: string; subject: string; body: string }[]>('GET', '/api/letters')
    expect(letters[0]!.subject).toContain('Olga invites you')
    const token = letters[0]!.link.split('/').at(-1)!
    expect(await people.stranger!.refusal('POST', `/api/invitations/${token}`)).toBe('404 no-invitation')
    expect((await guest.call('POST', `/api/invitations/${token}`)).status).toBe(200)
    await people.owner!.call('DELETE', `/api/trees/${tree}/members/${guest.id}`)
    await guest.call('POST', `/api/invitations/${token}`)
    expect(await guest.refusal('GET', `/api/trees/${tree}`)).toBe('404 no-tree')
  })
})

describe('the edges of the house', () => {
  it('writes and sockets from another site are refused', async () => {
    const ines = await signUp(url)
    const tree = await ines.makeTree()
    expect(await ines.refusal('POST', '/api/trees', { title: 'x' }, { origin: 'https://elsewhere.example' })).toBe(
      '403 origin',
    )
    const line = ines.line(tree, { origin: 'https://elsewhere.example' })
    await line.until(() => line.closed !== null)
    expect(line.refusedStatus).toBe(403)
  })
  it('a page that was opened for one person gets no line for another', async () => {
    const ines = await signUp(url)
    const rana = await signUp(url, 'Rana Tahiri')
    const tree = await ines.makeTree()
    await bringIn(ines, tree, rana, 'editor')
    const own = rana.line(tree, {}, rana.id)
    await own.hello(0)
    const others = rana.line(tree, {}, ines.id)
    await others.until(() => others.closed !== null)
    expect(others.refusedStatus).toBe(403)
  })
  it('no other path can be upgraded', async () => {
    const ines = await signUp(url)
    const { Line } = await import('../caller')
    for (const path of ['/', '/api/me', '/api/trees/x/edits']) {
      const line = new Line(url.replace('http', 'ws') + path, { cookie: ines.cookie })
      await line.until(() => line.closed !== null)
      expect(line.refusedStatus).toBe(404)
    }
  })
  it('pages carry a strict policy with no inline script but the build’s own', async () => {
    const { headers } = await new Caller(url).call('GET', '/')
    const policy = headers.get('content-security-policy') ?? ''
    expect(policy).toMatch(/script-src 'self' 'sha256-/)
    expect(policy.split(';').find(part => part.includes('script-src'))).not.toMatch(/unsafe/)
    expect(policy).toContain("frame-ancestors 'none'")
  })
  it('unknown addresses and unforeseen input get the one error shape', async () => {
    const ines = await signUp(url)
    expect(await ines.refusal('GET', '/api/nothing/here')).toBe('404 no-route')
    expect(await ines.refusal('GET', '/api/trees/%00%ff')).toMatch(/^4\d\d/)
    expect(await ines.refusal('GET', '/api/trees/..%2f..%2fetc')).toMatch(/^40[04]/)
  })
  it('describes every operation in OpenAPI 3.1, and each is really there', async () => {
    const { data } = await new Caller(url).call<{ openapi: string; paths: Record<string, Record<string, unknown>> }>(
      'GET',
      '/api/openapi.json',
    )
    expect(data).toEqual(JSON.parse(JSON.stringify(openApi())))
    expect(data.openapi).toBe('3.1.0')
    const nobody = new Caller(url)
    for (const operation of Object.values<Operation>(OPERATIONS)) {
      const path = operation.path.replace('{format}', 'json').replaceAll(/\{\w+\}/g, 'abcdefghijklmnopqrstuvwxyz')
      const refusal = await nobody.refusal(operation.method, path, operation.method === 'GET' ? undefined : {})
      expect([operation.path, refusal]).not.toEqual([operation.path, '404 no-route'])
      if (operation.access !== 'nobody') expect([operation.path, refusal]).toEqual([operation.path, '401 sign-in'])
    }
  })
})

it('two owners who give up at once leave the tree with one', async () => {
  const [olga, rana] = [await signUp(url, 'Olga'), await signUp(url, 'Rana Tahiri')]
  for (let i = 0; i < 5; i++) {
    const tree = await olga.makeTree()
    await bringIn(olga, tree, rana, 'editor')
    await olga.call('PUT', `/api/trees/${tree}/members/${rana.id}`, { role: 'owner' })
    await Promise.all([
      olga.call('PUT', `/api/trees/${tree}/members/${rana.id}`, { role: 'viewer' }),
      rana.call('PUT', `/api/trees/${tree}/members/${olga.id}`, { role: 'viewer' }),
      olga.call('DELETE', `/api/trees/${tree}/members/${olga.id}`),
      rana.call('DELETE', `/api/trees/${tree}/members/${rana.id}`),
    ])
    const roles = await Promise.all(
      [olga, rana].map(async one => (await one.call<{ role?: string }>('GET', `/api/trees/${tree}`)).data.role),
    )
    expect(roles).toContain('owner')
  }
})
