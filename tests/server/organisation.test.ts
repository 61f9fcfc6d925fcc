import { Secret, TOTP } from 'otpauth'
import { createConnection } from 'mysql2/promise'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { Caller, newId, signUp } from '../caller'
import { type House, openHouse } from '../house'
import { type Oddity, OddProvider } from './odd-provider'

/*
 * Signing in by an organisation, against OpenID Connect Core 1.0 (section 3.1.3.7: what is checked of an ID token; 5.1:
 * `email_verified`; 10.1.1: keys that rotate) and RFC 7636 (PKCE). The provider here does wrong what it's told to.
 */

let house: House
let provider: OddProvider
const PASSWORD = 'a long enough one'
const fresh = (): string => `${newId().toLowerCase()}@town.example`

beforeAll(async () => {
  provider = await new OddProvider().open()
  house = await openHouse({
    envAt: async url => ({
      PUBLIC_URL: url,
      LOG_LEVEL: 'error',
      CONFIRM: 'off',
      OIDC_ISSUER: provider.issuer,
      OIDC_CLIENT_ID: OddProvider.CLIENT,
      OIDC_CLIENT_SECRET: OddProvider.SECRET,
      OIDC_NAME: 'the town’s offices',
    }),
  })
}, 60_000)
afterAll(async () => {
  await house.close()
  provider.close()
})
beforeEach(() => {
  provider.odd = {}
  provider.subject = newId()
  provider.email = fresh()
})

/** A browser on the way to the organisation and back: cookies are kept, sendings elsewhere aren't followed. */
class Browser extends Caller {
  private code = ''
  async go(path: string): Promise<string> {
    const response = await fetch(new URL(path, this.url), {
      redirect: 'manual',
      headers: { cookie: this.cookies.join('; ') },
    })
    for (const set of response.headers.getSetCookie()) {
      const pair = set.split(';')[0]!
      this.cookies = [...this.cookies.filter(one => !one.startsWith(`${pair.split('=')[0]}=`)), pair]
      if (pair.startsWith('sun-porch=')) this.cookie = pair
    }
    return response.headers.get('location') ?? `${response.status}`
  }
  /** Where the organisation is asked, and what with. */
  async begin(then = '/'): Promise<URLSearchParams> {
    const to = new URL(await this.go(`/api/sign-in/organisation?then=${encodeURIComponent(then)}`))
    this.code = OddProvider.codeFor(to.searchParams)
    return to.searchParams
  }
  back(state: string): Promise<string> {
    return this.go(`/api/sign-in/organisation/back?code=${this.code}&state=${state}`)
  }
  /** There and back; where one stands in the end. */
  async comeIn(then = '/'): Promise<string> {
    return this.back((await this.begin(then)).get('state')!)
  }
  async me(): Promise<{ id: string; name: string; email: string } | null> {
    const { status, data } = await this.call<{ id: string; name: string; email: string }>('GET', '/api/me')
    return status === 200 ? data : null
  }
}
const browser = (): Browser => new Browser(house.url)

describe('coming in by an organisation', () => {
  it('asks with code, PKCE, state and nonce, each of its own, and makes an account at the first time', async () => {
    const one = browser()
    const asked = await one.begin()
    expect(Object.fromEntries(asked)).toMatchObject({
      client_id: OddProvider.CLIENT,
      response_type: 'code',
      scope: 'openid email profile',
      code_challenge_method: 'S256',
      redirect_uri: `${house.url}/api/sign-in/organisation/back`,
    })
    const again = await browser().begin()
    for (const name of ['state', 'nonce', 'code_challenge']) {
      expect(asked.get(name)!.length).toBeGreaterThanOrEqual(43)
      expect(again.get(name)).not.toBe(asked.get(name))
    }
    expect(await one.comeIn('/work?x=1')).toBe('/work?x=1')
    expect(await one.me()).toMatchObject({ name: 'Leonie Achterberg', email: provider.email })
    expect(provider.proofs.at(-1)).toBe(true)
  })

  it('is the same account when they come again, whatever their address is by then', async () => {
    const first = browser()
    await first.comeIn()
    const { id } = (await first.me())!
    provider.email = fresh()
    const again = browser()
    await again.comeIn()
    expect((await again.me())!.id).toBe(id)
  })

  it('goes on to a path of this app alone', async () => {
    for (const then of [
      '//elsewhere.example',
      '/\\elsewhere.example',
      'https://elsewhere.example',
      '/\t/elsewhere.example',
    ])
      expect(await browser().comeIn(then)).toBe('/')
  })

  it('takes the address from the description of the person where the token doesn’t hold it', async () => {
    provider.odd = {
      without: ['email', 'email_verified', 'name'],
      userInfo: {
        sub: provider.subject,
        email: provider.email.toUpperCase(),
        email_verified: true,
        name: 'Tomas Pereira',
      },
    }
    const one = browser()
    // The description of the provider is five minutes old at most: the way back asks afresh.
    expect(await one.comeIn()).toBe('/')
    expect(await one.me()).toMatchObject({ name: 'Tomas Pereira', email: provider.email })
    provider.odd = { ...provider.odd, userInfo: { ...provider.odd.userInfo, sub: 'somebody else' } }
    expect(await browser().comeIn()).toBe('/sign-in?trouble=organisation-refused')
  })
})

describe('what isn’t as it should be is refused', () => {
  const now = (): number => Math.floor(Date.now() / 1000)
  const WRONG: Record<string, () => Oddity> = {
    'a nonce of another sign-in': () => ({ claims: { nonce: 'another' } }),
    'no nonce': () => ({ without: ['nonce'] }),
    'another issuer': () => ({ claims: { iss: 'https://elsewhere.example' } }),
    'a token for another app': () => ({ claims: { aud: 'another app' } }),
    'a token for two, given to the other': () => ({ claims: { aud: [OddProvider.CLIENT, 'another'], azp: 'another' } }),
    'a token that has ended': () => ({ claims: { iat: now() - 600, exp: now() - 300 } }),
    'a token without an end': () => ({ without: ['exp'] }),
    'a token that says nobody': () => ({ without: ['sub'] }),
    'a token that nobody signed': () => ({ signs: 'nobody' }),
    'a token signed with a key that nobody published': () => ({ signs: 'a key nobody published' }),
    'a token signed with the secret that the app has': () => ({ signs: 'the secret of the app' }),
  }
  for (const [what, odd] of Object.entries(WRONG))
    it(what, async () => {
      provider.odd = odd()
      const one = browser()
      expect(await one.comeIn()).toBe('/sign-in?trouble=organisation-refused')
      expect(await one.me()).toBeNull()
    })

  it('a provider that calls itself something else', async () => {
    const one = browser()
    const state = (await one.begin()).get('state')!
    provider.odd = { calls: 'https://elsewhere.example' }
    expect(await one.back(state)).toBe('/sign-in?trouble=organisation-away')
    expect(await one.me()).toBeNull()
  })

  it('a state of another browser, none, or one that was used', async () => {
    const one = browser()
    const other = browser()
    const theirs = (await other.begin()).get('state')!
    const mine = (await one.begin()).get('state')!
    expect(await one.back(theirs)).toBe('/sign-in?trouble=organisation-refused')
    // The errand has ended with that.
    expect(await one.back(mine)).toBe('/sign-in?trouble=organisation-refused')
    expect(await browser().back('')).toBe('/sign-in?trouble=organisation-refused')
    const state = (await one.begin()).get('state')!
    expect(await one.back(state)).toBe('/')
    expect(await one.back(state)).toBe('/sign-in?trouble=organisation-refused')
  })

  it('somebody who turned back', async () => {
    const one = browser()
    const state = (await one.begin()).get('state')!
    expect(await one.go(`/api/sign-in/organisation/back?error=access_denied&state=${state}`)).toBe(
      '/sign-in?trouble=organisation-refused',
    )
  })

  it('an address that the organisation doesn’t vouch for, or something that only looks like its word', async () => {
    for (const claims of [{ email_verified: false }, { email_verified: 'true' }, { email: 'not an address' }]) {
      provider.odd = { claims }
      const one = browser()
      expect(await one.comeIn()).toBe('/sign-in?trouble=organisation-unconfirmed')
      expect(await one.me()).toBeNull()
    }
  })

  it('keys that were changed count at once, and old ones no more', async () => {
    expect(await browser().comeIn()).toBe('/')
    await provider.changeKeys()
    expect(await browser().comeIn()).toBe('/')
    provider.odd = { signs: 'a key nobody published' }
    expect(await browser().comeIn()).toBe('/sign-in?trouble=organisation-refused')
  })
})

describe('the account that is there', () => {
  async function confirm(email: string): Promise<void> {
    const db = await createConnection(house.databaseUrl)
    await db.query('UPDATE users SET confirmed_at = UTC_TIMESTAMP(3) WHERE email = ?', [email])
    await db.end()
  }

  it('is joined by its confirmed address, keeps its password, and hears of it by letter', async () => {
    const ines = await signUp(house.url)
    await confirm(ines.email)
    provider.email = ines.email
    const one = browser()
    expect(await one.comeIn()).toBe('/')
    expect((await one.me())!.id).toBe(ines.id)
    expect((await one.call('POST', '/api/sign-in', { email: ines.email, password: PASSWORD })).status).toBe(200)
    const { data: account } = await one.call<{ organisation: string; hasPassword: boolean }>('GET', '/api/account')
    expect(account).toMatchObject({ organisation: 'the town’s offices', hasPassword: true })
    // It can be left again; then the organisation's word joins it anew.
    expect((await one.call('DELETE', '/api/account/organisation')).status).toBe(200)
    expect((await one.call<{ organisation: null }>('GET', '/api/account')).data.organisation).toBeNull()
  })

  it('is taken from whoever made it with somebody else’s address', async () => {
    const thief = await signUp(house.url, 'Nobody Known')
    const { data: token } = await thief.call<{ token: string }>('POST', '/api/account/tokens', {
      name: 'kept',
      scope: 'write',
      days: null,
    })
    provider.email = thief.email
    const owner = browser()
    expect(await owner.comeIn()).toBe('/')
    expect((await owner.me())!.id).toBe(thief.id)
    expect((await thief.call('GET', '/api/me')).status).toBe(401)
    expect(await thief.refusal('POST', '/api/sign-in', { email: thief.email, password: PASSWORD })).toBe('401 wrong')
    const script = new Caller(house.url)
    expect((await script.call('GET', '/api/trees', undefined, { authorization: `Bearer ${token.token}` })).status).toBe(
      401,
    )
    // Nothing but the organisation opens it now, so that one can't be left.
    expect(await owner.refusal('DELETE', '/api/account/organisation')).toBe('409 no-password')
  })

  it('isn’t given to the next person who gets the address', async () => {
    expect(await browser().comeIn()).toBe('/')
    provider.subject = newId()
    const next = browser()
    expect(await next.comeIn()).toBe('/sign-in?trouble=joined')
    expect(await next.me()).toBeNull()
  })

  it('that is locked stays shut', async () => {
    const one = browser()
    await one.comeIn()
    const db = await createConnection(house.databaseUrl)
    await db.query('UPDATE users SET locked_at = UTC_TIMESTAMP(3) WHERE email = ?', [provider.email])
    await db.end()
    expect(await browser().comeIn()).toBe('/sign-in?trouble=locked')
  })

  it('asks for its second factor all the same', async () => {
    const ines = await signUp(house.url)
    await confirm(ines.email)
    const { data } = await ines.call<{ secret: string }>('POST', '/api/account/second-factor', { password: PASSWORD })
    const totp = new TOTP({ secret: Secret.fromBase32(data.secret) })
    const { data: turnedOn } = await ines.call<{ codes: string[] }>('PUT', '/api/account/second-factor', {
      secret: data.secret,
      code: totp.generate(),
    })
    provider.email = ines.email
    const one = browser()
    expect(await one.comeIn('/work')).toBe('/sign-in?ask=code&then=%2Fwork')
    expect(await one.me()).toBeNull()
    const cookies = { cookie: one.cookies.join('; ') }
    const code = (given: string): Promise<{ status: number }> =>
      one.call('POST', '/api/sign-in/organisation/code', { code: given }, cookies)
    expect((await code('000000')).status).toBe(401)
    // Somebody else's browser has no such errand.
    expect(await browser().refusal('POST', '/api/sign-in/organisation/code', { code: turnedOn.codes[0]! })).toBe(
      '401 sign-in',
    )
    expect((await code(turnedOn.codes[0]!)).status).toBe(200)
    expect((await one.me())!.id).toBe(ines.id)
  })

  it('is made once by forty who come at the same moment', async () => {
    const ids = await Promise.all(
      Array.from({ length: 40 }, async () => {
        const one = browser()
        expect(await one.comeIn()).toBe('/')
        return (await one.me())?.id
      }),
    )
    expect(new Set(ids).size).toBe(1)
    expect(ids[0]).toBeDefined()
  })
})

it('who was sent elsewhere, or given a file, isn’t logged as somebody whom the app failed', async () => {
  const one = browser()
  expect(await one.comeIn()).toBe('/')
  expect((await one.call('GET', '/api/account/data')).status).toBe(200)
  expect(house.said()).not.toContain('a request failed')
})

describe('a house without one', () => {
  it('says that there is none', async () => {
    const plain = await openHouse()
    try {
      const one = new Caller(plain.url)
      expect(await one.refusal('GET', '/api/sign-in/organisation')).toBe('404 no-organisation')
      expect((await one.call<{ organisation: null }>('GET', '/api/about')).data.organisation).toBeNull()
    } finally {
      await plain.close()
    }
  })
})
