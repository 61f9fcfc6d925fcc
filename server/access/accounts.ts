import { createHash, randomBytes } from 'node:crypto'
import { eq, inArray, sql } from 'drizzle-orm'
import type { H3Event } from 'h3'
import { nanoid } from 'nanoid'
import { database, databaseErrorCode } from '../database/connect'
import { sessions, signInFailures, users } from '../database/schema'
import { Fault } from './fault'

export interface Account {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly session: string
}

export const hashed = (secret: string): string => createHash('sha256').update(secret).digest('hex')

const FREE_TRIES = { account: 5, address: 30 } as const
const LONGEST_WAIT = 15 * 60

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
 * Checks a mail address and a password. After five failures for an account, or thirty from an address, each further try
 * has to wait twice as long as the one before, a quarter of an hour at most.
 */
export async function checkPassword(email: string, password: string, address: string): Promise<string> {
  const db = database()
  const accountKey = `account ${email}`
  const addressKey = `address ${address}`
  const failures = await db
    .select()
    .from(signInFailures)
    .where(inArray(signInFailures.what, [accountKey, addressKey]))
  const wait = Math.max(0, ...failures.map(row => row.until.getTime() - Date.now()))
  if (wait > 0)
    throw new Fault(429, 'slowed', `Too many tries. Wait ${Math.ceil(wait / 1000)} seconds, then try again.`, {
      seconds: Math.ceil(wait / 1000),
    })
  const [user] = await db.select().from(users).where(eq(users.email, email))
  decoy ??= hashPassword(randomBytes(16).toString('hex'))
  const right = await verifyPassword(user?.passwordHash ?? (await decoy), password)
  if (!user || !right) {
    for (const [what, free] of [
      [accountKey, FREE_TRIES.account],
      [addressKey, FREE_TRIES.address],
    ] as const) {
      await db.execute(sql`insert into sign_in_failures (what, count, until) values (${what}, 1, utc_timestamp(3))
        on duplicate key update count = if(until < utc_timestamp(3) - interval 1 hour, 1, count + 1),
        until = utc_timestamp(3) + interval if(count < ${free}, 0, least(${LONGEST_WAIT}, pow(2, count - ${free}))) second`)
    }
    throw new Fault(401, 'wrong', 'That mail address and password don’t match.')
  }
  await db.delete(signInFailures).where(eq(signInFailures.what, accountKey))
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
