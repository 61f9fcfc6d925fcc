import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Secret, TOTP } from 'otpauth'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { bringIn, Caller, newId } from '../caller'
import { type House, openHouse } from '../house'

/* Accounts as they are where it's earnest: addresses confirmed by a letter, limits as they come. */

let house: House
const outbox = mkdtempSync(join(tmpdir(), 'sun-porch-outbox-'))
const PASSWORD = 'a long enough one'

beforeAll(async () => {
  house = await openHouse({ env: { CONFIRM: 'on', OUTBOX_DIR: outbox } })
}, 60_000)
afterAll(async () => {
  await house.close()
  rmSync(outbox, { recursive: true })
})

interface Written {
  readonly to: string
  readonly link: string
}
/** Letters that were left for the operator, oldest first. */
function written(): Written[] {
  return readdirSync(outbox)
    .sort()
    .map(name => {
      const text = readFileSync(join(outbox, name), 'utf8').replaceAll('=\r\n', '')
      return {
        to: /^To: (.+)\r$/m.exec(text)![1]!,
        link: /https?:\/\/\S+?(\/(?:account|sign-in)\S*)/.exec(text)?.[1] ?? '',
      }
    })
}
const lettersTo = (email: string): Written[] => written().filter(one => one.to === email)
const newestLink = (email: string): string => lettersTo(email).at(-1)!.link
const fresh = (): string => `${newId().toLowerCase()}@porch.example`

async function asked(email: string, name = 'Ines Brandt', password = PASSWORD): Promise<Caller> {
  const caller = new Caller(house.url)
  caller.email = email
  await caller.call('POST', '/api/sign-up', { email, name, password })
  return caller
}
async function confirmed(name = 'Ines Brandt'): Promise<Caller> {
  const caller = await asked(fresh(), name)
  expect((await caller.call('POST', `/api${newestLink(caller.email)}`, { password: PASSWORD })).status).toBe(200)
  caller.id = (await caller.call<{ id: string }>('GET', '/api/me')).data.id
  return caller
}
async function signedIn(email: string, password = PASSWORD): Promise<Caller> {
  const caller = new Caller(house.url)
  caller.email = email
  await caller.call('POST', '/api/sign-in', { email, password })
  return caller
}

describe('an address', () => {
  it('opens nothing before its letter is answered, and the answer needs the password', async () => {
    const ines = await asked(fresh())
    expect(await ines.refusal('GET', '/api/me')).toBe('401 sign-in')
    expect(await ines.refusal('POST', '/api/sign-in', { email: ines.email, password: PASSWORD })).toBe('403 confirm')
    const link = `/api${newestLink(ines.email)}`
    expect(await ines.refusal('POST', link, { password: 'somebody else’s' })).toBe('401 wrong')
    expect((await ines.call('POST', link, { password: PASSWORD })).status).toBe(200)
    expect((await ines.call<{ email: string }>('GET', '/api/me')).data.email).toBe(ines.email)
    expect(await ines.refusal('POST', link, { password: PASSWORD })).toBe('404 no-link')
  })

  it('that somebody else signed up with first is still its owner’s', async () => {
    const email = fresh()
    const thief = await asked(email, 'Thief', 'the thief knows this')
    const thiefs = newestLink(email)
    const owner = await asked(email, 'Owner', 'the owner knows this')
    // The thief’s password, in the thief’s letter that the owner reads, opens nothing.
    expect(await owner.refusal('POST', `/api${thiefs}`, { password: 'the thief knows this' })).toBe('404 no-link')
    const link = `/api${newestLink(email)}`
    expect(await thief.refusal('POST', link, { password: 'the thief knows this' })).toBe('401 wrong')
    expect((await owner.call('POST', link, { password: 'the owner knows this' })).status).toBe(200)
    expect(await thief.refusal('POST', '/api/sign-in', { email, password: 'the thief knows this' })).toBe('401 wrong')
  })

  it('isn’t told to have an account by sign-up, reset or sign-in', async () => {
    const ines = await confirmed()
    const other = new Caller(house.url)
    const say = async (path: string, body: object): Promise<unknown> => {
      const { status, data } = await other.call('POST', path, body)
      return { status, data }
    }
    const body = (email: string) => ({ email, name: 'X', password: 'a long enough one' })
    expect(await say('/api/sign-up', body(ines.email))).toEqual(await say('/api/sign-up', body(fresh())))
    expect(await say('/api/account/reset', { email: ines.email })).toEqual(
      await say('/api/account/reset', { email: fresh() }),
    )
    const wrong = { password: 'wrong' }
    expect(await say('/api/sign-in', { email: ines.email, ...wrong })).toEqual(
      await say('/api/sign-in', { email: fresh(), ...wrong }),
    )
    // Its owner is told, where the newcomer isn’t.
    expect(lettersTo(ines.email).map(({ link }) => link)).toContain('/sign-in')
  })

  it('gets five letters an hour about its account, however often they are asked for', async () => {
    const email = fresh()
    for (let i = 0; i < 8; i++) await asked(email)
    expect(lettersTo(email)).toHaveLength(5)
  })

  it('is changed by a letter to the new one, and not into one that is taken', async () => {
    const [ines, rana] = [await confirmed(), await confirmed('Rana')]
    const to = fresh()
    const ask = { email: to, password: PASSWORD }
    expect(await ines.refusal('POST', '/api/account/address', { ...ask, password: 'wrong' })).toBe('403 wrong')
    await ines.call('POST', '/api/account/address', ask)
    expect((await ines.call<{ email: string }>('GET', '/api/me')).data.email).toBe(ines.email)
    expect((await new Caller(house.url).call('POST', `/api${newestLink(to)}`, {})).status).toBe(200)
    expect((await ines.call<{ email: string }>('GET', '/api/me')).data.email).toBe(to)
    // Whoever had the account until now hears of it at the old address.
    expect(lettersTo(ines.email)).toHaveLength(2)
    await ines.call('POST', '/api/account/address', { email: rana.email, password: PASSWORD })
    expect(newestLink(rana.email)).toBe('/sign-in')
  })
})

describe('a password', () => {
  it('is set anew by a letter, once; all sessions end and their lines are cut', async () => {
    const ines = await confirmed()
    const tree = await ines.makeTree()
    const line = ines.line(tree)
    await line.hello(0)
    const { token } = (
      await ines.call<{ token: string }>('POST', '/api/account/tokens', { name: 'script', scope: 'read', days: null })
    ).data
    const script = async () =>
      (await new Caller(house.url).call('GET', '/api/me', undefined, { authorization: `Bearer ${token}` })).status
    expect(await script()).toBe(200)
    await new Caller(house.url).call('POST', '/api/account/reset', { email: ines.email })
    await expect.poll(() => newestLink(ines.email)).toMatch(/^\/account\/reset\//)
    const link = `/api${newestLink(ines.email)}`
    expect(await ines.refusal('POST', link, { password: 'short' })).toBe('400 invalid')
    expect((await ines.call('POST', link, { password: 'another long one' })).status).toBe(200)
    await line.until(() => line.closed !== null)
    expect(await ines.refusal('GET', '/api/me')).toBe('401 sign-in')
    // Whoever had the old password may have made tokens with it.
    expect(await script()).toBe(401)
    expect(await ines.refusal('POST', link, { password: 'another long one' })).toBe('404 no-link')
    expect((await ines.call('POST', '/api/sign-in', { email: ines.email, password: 'another long one' })).status).toBe(
      200,
    )
  })

  it('is changed by whoever knows it; every other session ends, this one stays', async () => {
    const ines = await confirmed()
    const other = await signedIn(ines.email)
    const body = { password: PASSWORD, fresh: 'another long one' }
    expect(await ines.refusal('POST', '/api/account/password', { ...body, password: 'guess' })).toBe('403 wrong')
    expect((await ines.call('POST', '/api/account/password', body)).status).toBe(200)
    expect(await other.refusal('GET', '/api/me')).toBe('401 sign-in')
    expect((await ines.call('GET', '/api/me')).status).toBe(200)
  })

  it('that is guessed from an open browser is slowed as well', async () => {
    const ines = await confirmed()
    const said: string[] = []
    for (let i = 0; i < 12; i++)
      said.push(
        await ines.refusal('POST', '/api/account/password', { password: `guess ${i}`, fresh: 'another long one' }),
      )
    expect(said[0]).toBe('403 wrong')
    expect(said).toContain('429 slowed')
  })
})

describe('a session', () => {
  it('ends when its browser signs in again: the old cookie opens nothing', async () => {
    const ines = await confirmed()
    const old = new Caller(house.url)
    old.cookie = ines.cookie
    await ines.call('POST', '/api/sign-in', { email: ines.email, password: PASSWORD })
    expect((await ines.call('GET', '/api/me')).status).toBe(200)
    expect(await old.refusal('GET', '/api/me')).toBe('401 sign-in')
  })

  it('that signs out takes its live lines with it, and leaves those of others', async () => {
    const ines = await confirmed()
    const other = await signedIn(ines.email)
    const tree = await ines.makeTree()
    const [one, two] = [ines.line(tree), other.line(tree)]
    await one.hello(0)
    await two.hello(0)
    await ines.call('POST', '/api/sign-out')
    await one.until(() => one.closed !== null)
    expect(one.of('gone')[0]?.code).toBe('signed-out')
    await other.edit(tree, [{ op: 'add', topic: 'a', parent: null, order: 'a0' }])
    await two.until(() => two.numbers().includes(1))
    expect(one.numbers()).toEqual([])
    await two.close()
  })

  it('is listed and can be ended from another; nobody ends somebody else’s', async () => {
    const [ines, rana] = [await confirmed(), await confirmed('Rana')]
    const other = await signedIn(ines.email)
    type View = { sessions: { id: string; own: boolean }[] }
    const view = (await ines.call<View>('GET', '/api/account')).data
    expect(view.sessions.map(({ own }) => own).sort()).toEqual([false, true])
    const { id } = view.sessions.find(({ own }) => !own)!
    expect(await rana.refusal('DELETE', `/api/account/sessions/${id}`)).toBe('404 no-session')
    expect((await ines.call('DELETE', `/api/account/sessions/${id}`)).status).toBe(200)
    expect(await other.refusal('GET', '/api/me')).toBe('401 sign-in')
  })

  it('from a browser that is known isn’t kept out by guesses made elsewhere', async () => {
    const ines = await confirmed()
    await ines.call('POST', '/api/sign-out')
    const thief = new Caller(house.url)
    for (let i = 0; i < 6; i++)
      await thief.refusal('POST', '/api/sign-in', { email: ines.email, password: `guess ${i}` })
    const right = { email: ines.email, password: PASSWORD }
    expect(await thief.refusal('POST', '/api/sign-in', right)).toBe('429 slowed')
    // `ines` keeps the cookie by which her browser is known.
    const known = await fetch(`${house.url}/api/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie: ines.cookies.join('; ') },
      body: JSON.stringify(right),
    })
    expect(known.status).toBe(200)
  })
})

describe('a second factor', () => {
  const code = (secret: string, at = Date.now()): string =>
    new TOTP({ secret: Secret.fromBase32(secret), digits: 6, period: 30, algorithm: 'SHA1' }).generate({
      timestamp: at,
    })

  it('is asked for besides the password; no code counts twice; a recovery code opens once', async () => {
    const ines = await confirmed()
    const begun = await ines.call<{ secret: string; picture: string }>('POST', '/api/account/second-factor', {
      password: PASSWORD,
    })
    expect(begun.data.picture).toContain('<svg')
    const { secret } = begun.data
    expect(await ines.refusal('PUT', '/api/account/second-factor', { secret, code: '000000' })).toMatch(
      /^422 code|^200/,
    )
    const now = code(secret)
    const { data } = await ines.call<{ codes: string[] }>('PUT', '/api/account/second-factor', { secret, code: now })
    expect(data.codes).toHaveLength(10)
    const signIn = (extra: object): Promise<string> =>
      new Caller(house.url).refusal('POST', '/api/sign-in', { email: ines.email, password: PASSWORD, ...extra })
    expect(await signIn({})).toBe('401 code')
    expect(await signIn({ code: now })).toBe('401 code')
    const next = code(secret, Date.now() + 30_000)
    const [one, two] = await Promise.all([signIn({ code: next }), signIn({ code: next })])
    expect([one, two].sort()).toEqual(['200 no error', '401 code'])
    expect(await signIn({ code: data.codes[0] })).toBe('200 no error')
    expect(await signIn({ code: data.codes[0] })).toBe('401 code')
    expect(
      await ines.refusal('POST', '/api/account/second-factor/end', { password: PASSWORD, code: data.codes[1] }),
    ).toBe('200 no error')
    expect(await signIn({})).toBe('200 no error')
  })

  it('isn’t guessed by whoever knows the password, at sign-in, in an open session, or by asking in between', async () => {
    const ines = await confirmed()
    const { secret } = (
      await ines.call<{ secret: string }>('POST', '/api/account/second-factor', { password: PASSWORD })
    ).data
    await ines.call('PUT', '/api/account/second-factor', { secret, code: code(secret) })
    const said: string[] = []
    for (let i = 0; i < 5; i++) {
      const right = { email: ines.email, password: PASSWORD }
      said.push(await new Caller(house.url).refusal('POST', '/api/sign-in', { ...right, code: 'aaaaaa' }))
      // The password alone, which is right, takes nothing of it back.
      await new Caller(house.url).refusal('POST', '/api/sign-in', right)
      said.push(await ines.refusal('POST', '/api/account/second-factor/end', { password: PASSWORD, code: 'aaaaaa' }))
    }
    expect(said.filter(one => one === '401 code' || one === '403 code').length).toBeLessThanOrEqual(7)
    // However slow the machine was so far: of many at once, one is looked at.
    const burst = await Promise.all(
      Array.from({ length: 8 }, () =>
        ines.refusal('POST', '/api/account/second-factor/end', { password: PASSWORD, code: 'aaaaaa' }),
      ),
    )
    expect(burst.filter(one => one === '429 slowed').length).toBeGreaterThanOrEqual(7)
  })
})

describe('leaving', () => {
  it('takes one’s data along: own trees whole, others’ links never', async () => {
    const ines = await confirmed()
    await ines.makeTree('Shelves')
    const { data } = await ines.call<{
      account: { email: string }
      trees: { tree: { topics: { title: string }[] } }[]
    }>('GET', '/api/account/data')
    expect(data.account.email).toBe(ines.email)
    expect(data.trees.map(({ tree }) => tree.topics[0]!.title)).toEqual(['Shelves'])
    expect(JSON.stringify(data)).not.toMatch(/passwordHash|tokenHash|totp/)
  })

  it('asks about each tree that nobody else owns; what was done stays, under a former member', async () => {
    const [ines, rana] = [await confirmed(), await confirmed('Rana Tahiri')]
    const [shared, alone] = [await ines.makeTree('Shared'), await ines.makeTree('Alone')]
    await bringIn(ines, shared, rana, 'editor')
    await ines.edit(shared, [{ op: 'add', topic: 'a', parent: null, order: 'a0' }])
    const { data } = await ines.call<{ trees: { id: string; people: { id: string }[] }[] }>(
      'GET',
      '/api/account/farewell',
    )
    expect(new Set(data.trees.map(({ id }) => id))).toEqual(new Set([shared, alone]))
    const go = (trees: object, password = PASSWORD): Promise<string> =>
      ines.refusal('POST', '/api/account/farewell', { password, trees })
    expect(await go({ [shared]: rana.id, [alone]: null }, 'wrong')).toBe('403 wrong')
    expect(await go({ [alone]: null })).toBe('409 undecided')
    expect(await go({ [shared]: 'abcdefghijklmnop', [alone]: null })).toBe('409 undecided')
    expect((await ines.call('GET', '/api/me')).status).toBe(200)
    expect(await go({ [shared]: rana.id, [alone]: null })).toBe('200 no error')
    expect(await ines.refusal('GET', '/api/me')).toBe('401 sign-in')
    expect(await ines.refusal('POST', '/api/sign-in', { email: ines.email, password: PASSWORD })).toBe('401 wrong')
    expect((await rana.open(shared)).role).toBe('owner')
    const { data: log } = await rana.call<{ edits: { user: string }[] }>('GET', `/api/trees/${shared}/edits`)
    expect(log.edits[0]!.user).toBe(ines.id)
    const { data: access } = await rana.call<{ what: string; by: string }[]>('GET', `/api/trees/${shared}/access`)
    expect(access.slice(0, 2).map(({ what, by }) => [what, by])).toEqual([
      ['left', 'A former member'],
      ['handed-over', 'A former member'],
    ])
    // The address is free again, for a stranger who finds nothing of it.
    const next = await asked(ines.email)
    await next.call('POST', `/api${newestLink(ines.email)}`, { password: PASSWORD })
    expect((await next.call<unknown[]>('GET', '/api/trees')).data).toEqual([])
    expect((await next.call<unknown[]>('GET', '/api/letters')).data).toEqual([])
  })
})

describe('invitations', () => {
  it('end with their time, die with who was removed and with who wrote them, and are told to owners', async () => {
    const [olga, rana, lev] = [await confirmed('Olga'), await confirmed('Rana'), await confirmed('Lev')]
    const tree = await olga.makeTree()
    await bringIn(olga, tree, rana, 'editor')
    await olga.call('PUT', `/api/trees/${tree}/members/${rana.id}`, { role: 'owner' })
    await rana.call('POST', `/api/trees/${tree}/invitations`, { email: lev.email, role: 'viewer' })
    const [letter] = (await lev.call<{ link: string }[]>('GET', '/api/letters')).data
    const pending = (await olga.call<{ until: string }[]>('GET', `/api/trees/${tree}/invitations`)).data
    expect(Date.parse(pending[0]!.until) - Date.now()).toBeGreaterThan(29 * 86_400_000)
    await olga.call('DELETE', `/api/trees/${tree}/members/${rana.id}`)
    expect(await lev.refusal('POST', `/api/invitations/${letter!.link.split('/').at(-1)}`)).toBe('404 no-invitation')
    expect((await olga.call<unknown[]>('GET', `/api/trees/${tree}/invitations`)).data).toEqual([])
  })

  it('alone let people in where sign-up is by invitation', async () => {
    const closed = await openHouse({ env: { SIGN_UP: 'invited', CONFIRM: 'on', OUTBOX_DIR: outbox } })
    try {
      const email = fresh()
      const caller = new Caller(closed.url)
      expect((await caller.call('POST', '/api/sign-up', { email, name: 'X', password: PASSWORD })).data).toEqual({
        confirm: true,
      })
      expect(lettersTo(email)).toEqual([])
    } finally {
      await closed.close()
    }
  }, 60_000)
})
