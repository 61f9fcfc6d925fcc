import { randomBytes } from 'node:crypto'
import type { H3Event } from 'h3'
import { settings } from '../settings'
import { isSealed, sealed } from './hashed'

/*
 * Browsers where somebody was signed in before. Guesses made elsewhere don't slow a sign-in from there. The cookie proves
 * nothing else: the password is asked for all the same.
 */

const COOKIE = 'sun-porch-known'
const MOST = 5

const entries = (event: H3Event): string[] => (getCookie(event, COOKIE) ?? '').split('|').filter(Boolean)
const proofOf = (entry: string) => {
  const [device = '', seal = ''] = entry.split('.')
  return { device, seal }
}
/** What is sealed changes with the password, so that a new one makes all browsers strangers. */
const saying = (device: string, user: { readonly id: string; readonly passwordHash: string }): string =>
  `${device} ${user.id} ${user.passwordHash.slice(-16)}`

/** The name of this browser, where the person has been signed in from it before; null where not. */
export function knownBrowser(
  event: H3Event,
  user: { readonly id: string; readonly passwordHash: string },
): string | null {
  for (const entry of entries(event)) {
    const { device, seal } = proofOf(entry)
    if (isSealed('known', saying(device, user), seal)) return `${user.id} ${device}`
  }
  return null
}

/** From now on this browser is known for the person. */
export function rememberBrowser(event: H3Event, user: { readonly id: string; readonly passwordHash: string }): void {
  if (knownBrowser(event, user)) return
  const device = randomBytes(9).toString('base64url')
  const kept = [`${device}.${sealed('known', saying(device, user))}`, ...entries(event)].slice(0, MOST)
  setCookie(event, COOKIE, kept.join('|'), {
    httpOnly: true,
    sameSite: 'lax',
    secure: settings().TLS,
    // Also where a password is changed, so that what others are known by here is kept.
    path: '/api',
    maxAge: 180 * 86_400,
  })
}
