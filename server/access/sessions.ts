import { randomBytes } from 'node:crypto'
import { and, desc, eq, gt, isNull, lt, ne } from 'drizzle-orm'
import type { H3Event } from 'h3'
import { bus } from '../bus'
import { database } from '../database/connect'
import { sessions, users } from '../database/schema'
import { settings } from '../settings'
import { hashed } from './hashed'
import { IDENTITY } from './identity'

/*
 * Sessions. The cookie holds a secret, sealed; the database its hash. A session ends when its row goes, whatever cookies
 * are left of it, and every way to sign out takes the row.
 */

const DAY_MS = 86_400_000
/** How old the note of when a session was last used may be. */
const SEEN_MS = 5 * 60_000

const cookieConfig = () => ({
  maxAge: settings().SESSION_DAYS * 86_400,
  cookie: { secure: settings().TLS, sameSite: 'lax' as const, httpOnly: true, path: '/' },
})

/** Sessions begun before this have ended by themselves. */
export const oldestSession = (): Date => new Date(Date.now() - settings().SESSION_DAYS * DAY_MS)

const secretOf = async (source: H3Event | { readonly headers: Headers }): Promise<string | undefined> => {
  // Who has no cookie of ours gets none by being looked at: it would be made, and sealed, for each request anew.
  if (
    !('node' in source ? getHeader(source, 'cookie') : source.headers.get('cookie'))?.includes(
      `${useRuntimeConfig().session.name}=`,
    )
  )
    return undefined
  // Of a request that becomes a socket only the headers are read, afresh each time.
  const session = await getUserSession(
    'node' in source ? source : ({ headers: source.headers, context: {} } as unknown as H3Event),
  ).catch(() => null)
  return session?.secure?.secret
}

/** Signs somebody in. The session that this browser had until then ends. */
export async function openSession(event: H3Event, userId: string): Promise<void> {
  const before = await secretOf(event)
  if (before) await endSession(hashed(before))
  const secret = randomBytes(24).toString('base64url')
  const now = new Date()
  await database()
    .insert(sessions)
    .values({
      id: hashed(secret),
      userId,
      agent: (getHeader(event, 'user-agent') ?? '').slice(0, 300),
      createdAt: now,
      seenAt: now,
    })
  await replaceUserSession(event, { user: { id: userId }, secure: { secret } }, cookieConfig() as never)
}

/** The person of a request's session, and the session's id; null for nobody. */
export async function sessionOf(source: H3Event | { readonly headers: Headers }) {
  const secret = await secretOf(source)
  if (!secret) return null
  const id = hashed(secret)
  const [row] = await database()
    .select({ user: IDENTITY, seenAt: sessions.seenAt })
    .from(sessions)
    .innerJoin(users, eq(users.id, sessions.userId))
    .where(
      and(
        eq(sessions.id, id),
        gt(sessions.createdAt, oldestSession()),
        isNull(users.lockedAt),
        isNull(users.deletedAt),
      ),
    )
  if (!row || (settings().CONFIRM && row.user.confirmedAt === null)) return null
  if (Date.now() - (row.seenAt?.getTime() ?? 0) > SEEN_MS)
    await database().update(sessions).set({ seenAt: new Date() }).where(eq(sessions.id, id))
  return { user: row.user, id }
}

/** Ends a session and cuts its live lines. */
export async function endSession(session: string): Promise<void> {
  await database().delete(sessions).where(eq(sessions.id, session))
  bus.tell({ about: 'signed-out', session })
}

/** Ends all sessions of somebody, or all but one, and cuts their live lines. */
export async function endAllSessions(userId: string, but?: string): Promise<void> {
  const mine = and(eq(sessions.userId, userId), ...(but === undefined ? [] : [ne(sessions.id, but)]))
  const rows = await database().select({ id: sessions.id }).from(sessions).where(mine)
  await database().delete(sessions).where(mine)
  for (const { id } of rows) bus.tell({ about: 'signed-out', session: id })
}

/** The cookie goes. */
export const forgetSession = (event: H3Event): Promise<boolean> => clearUserSession(event, cookieConfig() as never)

/** A session's name for the person: its hash says nothing about the secret, and a part of it is enough. */
export const publicId = (session: string): string => session.slice(0, 24)

export async function listSessions(userId: string, own: string) {
  const rows = await database()
    .select()
    .from(sessions)
    .where(and(eq(sessions.userId, userId), gt(sessions.createdAt, oldestSession())))
    .orderBy(desc(sessions.createdAt))
  return rows.map(({ id, agent, createdAt, seenAt }) => ({
    id: publicId(id),
    agent,
    since: createdAt.toISOString(),
    seen: (seenAt ?? createdAt).toISOString(),
    own: id === own,
  }))
}

/** Ends one of somebody's sessions by its public id. False when there is none. */
export async function endOneOf(userId: string, id: string): Promise<boolean> {
  const rows = await database().select({ id: sessions.id }).from(sessions).where(eq(sessions.userId, userId))
  const found = rows.find(row => publicId(row.id) === id)
  if (found) await endSession(found.id)
  return found !== undefined
}

/** Takes out what has ended by itself. */
export async function pruneSessions(): Promise<void> {
  await database().delete(sessions).where(lt(sessions.createdAt, oldestSession()))
}

declare module '#auth-utils' {
  interface User {
    id: string
  }
  interface SecureSessionData {
    secret: string
  }
}
