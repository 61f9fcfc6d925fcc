import type { H3Event } from 'h3'
import * as oidc from 'openid-client'
import { log } from '../log'
import { settings } from '../settings'
import { Fault } from './fault'
import { organisationErrand } from './organisation-errand'

/*
 * Signing in with the account that an organisation gives: OpenID Connect Core 1.0, authorisation code flow with PKCE
 * (RFC 7636), by openid-client. State, nonce, issuer, audience, times and the signature are checked by it; the signature also
 * where the token comes over TLS (section 3.1.3.7, 6, would let one leave that out).
 */

const TIMEOUT_SECONDS = 10
/** How long a description of the organisation's sign-in is taken as it was. */
const DESCRIBED_MS = 5 * 60_000

/** Who somebody is to the organisation. */
export interface OrganisationPerson {
  readonly issuer: string
  readonly subject: string
  /** In small letters, as accounts have it. */
  readonly email: string
  readonly name: string
}

/** Whether the settings name an organisation. */
export const hasOrganisation = (): boolean => Boolean(settings().OIDC_ISSUER && settings().OIDC_CLIENT_ID)

const backAddress = (): URL => new URL('/api/sign-in/organisation/back', settings().PUBLIC_URL)

async function describe(): Promise<oidc.Configuration> {
  const { OIDC_ISSUER, OIDC_CLIENT_ID, OIDC_CLIENT_SECRET } = settings()
  if (!OIDC_ISSUER || !OIDC_CLIENT_ID)
    throw new Fault(404, 'no-organisation', 'No organisation’s sign-in is set up here.')
  const issuer = new URL(OIDC_ISSUER)
  return oidc
    .discovery(
      issuer,
      OIDC_CLIENT_ID,
      {},
      OIDC_CLIENT_SECRET ? oidc.ClientSecretBasic(OIDC_CLIENT_SECRET) : oidc.None(),
      {
        timeout: TIMEOUT_SECONDS,
        execute: [
          oidc.enableNonRepudiationChecks,
          // The settings allow that for a provider on this machine alone.
          ...(issuer.protocol === 'http:' ? [oidc.allowInsecureRequests] : []),
        ],
      },
    )
    .catch((error: unknown) => {
      log.error({ error: reasonOf(error) }, 'the organisation’s sign-in does not answer')
      throw new Fault(502, 'organisation-away', 'The organisation’s sign-in doesn’t answer.')
    })
}

let described: { readonly at: number; readonly config: Promise<oidc.Configuration> } | undefined
/** As it was described last, so that who asks often isn't passed on as often. */
function recent(): Promise<oidc.Configuration> {
  if (described && Date.now() - described.at < DESCRIBED_MS) return described.config
  const config = describe()
  described = { at: Date.now(), config }
  config.catch(() => (described = undefined))
  return config
}

/** What went wrong, without tokens or answers. */
const reasonOf = (error: unknown): string =>
  error instanceof Error ? `${error.message} ${error.cause instanceof Error ? error.cause.message : ''}`.trim() : '?'

/**
 * The address to send the browser to. `then`: a path here to go on to. `again`: the organisation asks who it is even if it
 * knows somebody. Throws `no-organisation` or `organisation-away`.
 */
export async function beginAtOrganisation(event: H3Event, then: string, again = false): Promise<string> {
  const config = await recent()
  const verifier = oidc.randomPKCECodeVerifier()
  const state = oidc.randomState()
  const nonce = oidc.randomNonce()
  const errand = await organisationErrand(event)
  await errand.update({ state, nonce, verifier, then, at: Date.now(), user: undefined })
  return oidc.buildAuthorizationUrl(config, {
    redirect_uri: backAddress().href,
    scope: 'openid email profile',
    code_challenge: await oidc.calculatePKCECodeChallenge(verifier),
    code_challenge_method: 'S256',
    state,
    nonce,
    ...(again ? { prompt: 'login' } : {}),
  }).href
}

/**
 * Whom the organisation sends back. Throws `organisation-refused` (what came isn't what was asked for, or they turned back),
 * `organisation-unconfirmed` (no address that they vouch for) or `organisation-away`.
 */
export async function personFromOrganisation(event: H3Event): Promise<OrganisationPerson> {
  const errand = await organisationErrand(event)
  const { state, nonce, verifier } = errand.data
  // Once only, whatever becomes of it.
  await errand.clear()
  if (!state || !nonce || !verifier) throw refused('began elsewhere, or long ago')
  const current = backAddress()
  current.search = getRequestURL(event).search
  if (current.searchParams.get('state') !== state) throw refused('the state is another')
  // Described afresh, so that keys which were changed a moment ago count and old ones don't.
  const config = await describe()
  try {
    const tokens = await oidc.authorizationCodeGrant(config, current, {
      pkceCodeVerifier: verifier,
      expectedState: state,
      expectedNonce: nonce,
      idTokenExpected: true,
    })
    const claims = tokens.claims()!
    // Some say the address with the token itself, others when they are asked for it.
    const said =
      claims.email === undefined && config.serverMetadata().userinfo_endpoint
        ? await oidc.fetchUserInfo(config, tokens.access_token, claims.sub)
        : claims
    return personOf(claims.iss, claims.sub, said)
  } catch (error) {
    if (error instanceof Fault) throw error
    throw refused(reasonOf(error))
  }
}

/** OpenID Connect Core, section 2: ASCII, 255 at most. With a space at its end two would be one to the database. */
const SUBJECT = /^[\x21-\x7e](?:[\x20-\x7e]{0,253}[\x21-\x7e])?$/

function personOf(issuer: string, subject: string, said: Record<string, unknown>): OrganisationPerson {
  const email = typeof said.email === 'string' ? said.email.trim().toLowerCase() : ''
  // `true` and nothing else: what isn't vouched for could be anybody's.
  if (said.email_verified !== true || !/^[^\s@]+@[^\s@]+$/.test(email) || email.length > 254)
    throw new Fault(403, 'organisation-unconfirmed', 'The organisation doesn’t vouch for a mail address of yours.')
  if (issuer.length > 255 || !SUBJECT.test(subject)) throw refused('a name that the standard doesn’t allow')
  const name = typeof said.name === 'string' ? said.name.toWellFormed().trim().slice(0, 120) : ''
  return { issuer, subject, email, name: name || email.split('@')[0]! }
}

function refused(why: string): Fault {
  log.warn({ security: true, why }, 'an organisation’s sign-in was refused')
  return new Fault(403, 'organisation-refused', 'That sign-in can’t be used.')
}
