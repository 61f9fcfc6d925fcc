import { useSession, type H3Event, type SessionManager } from 'h3'
import { settings } from '../settings'

/** What a browser carries on its way to the organisation's sign-in and back, sealed so that only this app reads it. */
export interface Errand extends Record<string, unknown> {
  state?: string
  nonce?: string
  verifier?: string
  /** The path here to go on to. */
  then?: string
  /** Whose second factor is still to be asked for. */
  user?: string | undefined
  /** ms since 1970 UTC. */
  at?: number
}

const MINUTES = 15

export const organisationErrand = (event: H3Event): Promise<SessionManager<Errand>> =>
  useSession<Errand>(event, {
    name: 'sun-porch-errand',
    password: process.env.NUXT_SESSION_PASSWORD!,
    maxAge: MINUTES * 60,
    sessionHeader: false,
    // Lax: the browser comes back from another site, by a link.
    cookie: { httpOnly: true, sameSite: 'lax', secure: settings().TLS, path: '/api/sign-in/organisation' },
  })
