import { createHash } from 'node:crypto'
import { createServer } from 'node:http'
import { exportJWK, generateKeyPair, SignJWT, UnsecuredJWT, type JWTPayload } from 'jose'

type Keys = Awaited<ReturnType<typeof generateKeyPair>>

/** What an odd provider does otherwise than it should. */
export interface Oddity {
  readonly claims?: JWTPayload
  /** Claims that it leaves out. */
  readonly without?: readonly string[]
  readonly signs?: 'nobody' | 'a key nobody published' | 'the secret of the app'
  /** The address by which it names itself in its description. */
  readonly calls?: string
  readonly userInfo?: Record<string, unknown>
}

/** A provider of OpenID Connect that can be told to do wrong; without being told it does right. */
export class OddProvider {
  odd: Oddity = {}
  subject = 'w-1'
  email = ''
  name = 'Leonie Achterberg'
  /** Verifiers that came with codes, and whether each belongs to its challenge. */
  readonly proofs: boolean[] = []
  issuer = ''
  static readonly CLIENT = 'sun-porch'
  static readonly SECRET = 'shared by two and no more than two'
  private keys!: Keys
  private kid = 'first'
  private readonly server = createServer((request, response) => {
    void this.answer(request.url ?? '', request).then(
      body => {
        response.setHeader('content-type', 'application/json')
        response.end(JSON.stringify(body))
      },
      () => {
        response.statusCode = 500
        response.end()
      },
    )
  })

  async open(): Promise<this> {
    this.keys = await generateKeyPair('RS256')
    await new Promise<void>(done => this.server.listen(0, '127.0.0.1', done))
    this.issuer = `http://127.0.0.1:${(this.server.address() as { port: number }).port}`
    return this
  }
  close(): void {
    this.server.close()
    this.server.closeAllConnections()
  }
  /** From now on it signs with another key, and publishes that one alone. */
  async changeKeys(): Promise<void> {
    this.keys = await generateKeyPair('RS256')
    this.kid = `${this.kid}+`
  }

  private async answer(path: string, request: AsyncIterable<Buffer>): Promise<unknown> {
    if (path === '/.well-known/openid-configuration')
      return {
        issuer: this.odd.calls ?? this.issuer,
        authorization_endpoint: `${this.issuer}/authorize`,
        token_endpoint: `${this.issuer}/token`,
        jwks_uri: `${this.issuer}/jwks`,
        ...(this.odd.userInfo ? { userinfo_endpoint: `${this.issuer}/who` } : {}),
        response_types_supported: ['code'],
        subject_types_supported: ['public'],
        id_token_signing_alg_values_supported: ['RS256', 'HS256', 'none'],
        code_challenge_methods_supported: ['S256'],
      }
    if (path === '/jwks')
      return { keys: [{ ...(await exportJWK(this.keys.publicKey)), kid: this.kid, alg: 'RS256', use: 'sig' }] }
    if (path === '/who') return this.odd.userInfo
    if (path !== '/token') throw new Error('not there')
    let body = ''
    for await (const piece of request) body += piece.toString()
    const sent = new URLSearchParams(body)
    const [nonce = '', challenge] = (sent.get('code') ?? '').split('.')
    this.proofs.push(
      createHash('sha256')
        .update(sent.get('code_verifier') ?? '')
        .digest('base64url') === challenge,
    )
    return { access_token: 'of no use', token_type: 'Bearer', expires_in: 60, id_token: await this.token(nonce) }
  }

  /** The code that this provider gives for what it was asked: it keeps nothing, so the code says it all. */
  static codeFor(asked: URLSearchParams): string {
    return `${asked.get('nonce')}.${asked.get('code_challenge')}`
  }

  private async token(nonce: string): Promise<string> {
    const now = Math.floor(Date.now() / 1000)
    const all: JWTPayload = {
      iss: this.issuer,
      sub: this.subject,
      aud: OddProvider.CLIENT,
      iat: now,
      exp: now + 60,
      nonce,
      name: this.name,
      email: this.email,
      email_verified: true,
      ...this.odd.claims,
    }
    const left = this.odd.without ?? []
    const claims: JWTPayload = Object.fromEntries(Object.entries(all).filter(([name]) => !left.includes(name)))
    const header = { alg: 'RS256', kid: this.kid }
    if (this.odd.signs === 'nobody') return new UnsecuredJWT(claims).encode()
    if (this.odd.signs === 'the secret of the app')
      return new SignJWT(claims)
        .setProtectedHeader({ alg: 'HS256' })
        .sign(new TextEncoder().encode(OddProvider.SECRET.padEnd(32, ' ')))
    const key = this.odd.signs ? (await generateKeyPair('RS256')).privateKey : this.keys.privateKey
    return new SignJWT(claims).setProtectedHeader(header).sign(key)
  }
}
