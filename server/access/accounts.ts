import { createHash, randomBytes } from 'node:crypto'
import { eq } from 'drizzle-orm'
import type { H3Event } from 'h3'
import { nanoid } from 'nanoid'
import { database, databaseErrorCode } from '../database/connect'
import { sessions, users } from '../database/schema'
import { Fault } from './fault'
import { countTry } from './tries'

export interface Account {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly session: string
}

export const hashed = (secret: string): string => createHash('sha256').update(secret).digest('hex')

export async function createAccount(email: string, name: string, password: string): Promise<string> {
  const id = nanoid(16)
  try {
    await database()
      .insert(users)
      .values({ id, email, name, passwordHash: await hashPassword(password), createdAt: new Date() })
  } catch (error) {
    if (databaseErrorCode(error) === 'ER_DUP_ENTRY')
      throw new Fault(409, 'taken', 'There is an account with this mail address already. Sign in instead.')
    throw error
  }
  return id
}

/** A hash to compare with when there is no such account, so that both cases take the same time. */
let decoy: Promise<string> | undefined

/**
 * Checks a mail address and a password. The try is counted before it's looked at (see `countTry`). Throws `slowed` or `wrong`.
 */
export async function checkPassword(email: string, password: string, address: string): Promise<string> {
  const tried = await countTry(email, address)
  const [user] = await database().select().from(users).where(eq(users.email, email))
  decoy ??= hashPassword(randomBytes(16).toString('hex'))
  const right = await verifyPassword(user?.passwordHash ?? (await decoy), password)
  if (!user || !right) throw new Fault(401, 'wrong', 'That mail address and password don’t match.')
  await tried.forgive()
  return user.id
}

export async function openSession(event: H3Event, userId: string): Promise<void> {
  const secret = randomBytes(24).toString('base64url')
  await database()
    .insert(sessions)
    .values({
      id: hashed(secret),
      userId,
      agent: (getHeader(event, 'user-agent') ?? '').slice(0, 300),
      createdAt: new Date(),
    })
  await replaceUserSession(event, { user: { id: userId }, secure: { secret } })
}

/** Who sends this request, by the cookie and the stored session; null for nobody. */
export async function whoIs(source: H3Event | { readonly headers: Headers }): Promise<Account | null> {
  // Of a request that becomes a socket only the headers are read, afresh each time.
  const session = await getUserSession(
    'node' in source ? source : ({ headers: source.headers, context: {} } as unknown as H3Event),
  ).catch(() => null)
  const secret = session?.secure?.secret
  if (!secret) return null
  const id = hashed(secret)
  const [row] = await database()
    .select({ id: users.id, name: users.name, email: users.email })
    .from(sessions)
    .innerJoin(users, eq(users.id, sessions.userId))
    .where(eq(sessions.id, id))
  return row ? { ...row, session: id } : null
}

export async function endSession(session: string): Promise<void> {
  await database().delete(sessions).where(eq(sessions.id, session))
}

export async function endAllSessions(userId: string): Promise<void> {
  await database().delete(sessions).where(eq(sessions.userId, userId))
}

declare module '#auth-utils' {
  interface User {
    id: string
  }
  interface SecureSessionData {
    secret: string
  }
}
