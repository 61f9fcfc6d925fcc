import { randomBytes } from 'node:crypto'
import { and, desc, eq, gt, isNull, or } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { database } from '../database/connect'
import { accessTokens, users } from '../database/schema'
import { Fault } from './fault'
import { hashed } from './hashed'
import { IDENTITY } from './identity'

const MOST_TOKENS = 50
const DAY_MS = 86_400_000
/** By which a secret scanner knows what it found. */
const PREFIX = 'sunporch_'

const SEEN_MS = 5 * 60_000

/** The token of a request that shows one; null for none, or one that doesn't count. */
export async function tokenOf(headers: Headers) {
  const shown = /^Bearer (\S{20,200})$/i.exec(headers.get('authorization') ?? '')?.[1]
  if (!shown) return null
  const [row] = await database()
    .select({ token: accessTokens, user: IDENTITY })
    .from(accessTokens)
    .innerJoin(users, eq(users.id, accessTokens.userId))
    .where(
      and(
        eq(accessTokens.tokenHash, hashed(shown)),
        or(isNull(accessTokens.until), gt(accessTokens.until, new Date())),
        isNull(users.lockedAt),
        isNull(users.deletedAt),
      ),
    )
  if (!row) return null
  if (Date.now() - (row.token.usedAt?.getTime() ?? 0) > SEEN_MS)
    await database().update(accessTokens).set({ usedAt: new Date() }).where(eq(accessTokens.id, row.token.id))
  return { user: row.user, id: row.token.id, scope: row.token.scope }
}

export async function listTokens(userId: string) {
  const rows = await database()
    .select()
    .from(accessTokens)
    .where(eq(accessTokens.userId, userId))
    .orderBy(desc(accessTokens.createdAt))
  return rows.map(({ id, name, scope, createdAt, usedAt, until }) => ({
    id,
    name,
    scope,
    made: createdAt.toISOString(),
    used: usedAt?.toISOString() ?? null,
    until: until?.toISOString() ?? null,
  }))
}

/** Makes a token. It's told this once; only its hash is kept. */
export async function makeToken(
  userId: string,
  { name, scope, days }: { name: string; scope: 'read' | 'write'; days: number | null },
): Promise<{ id: string; token: string }> {
  if ((await listTokens(userId)).length >= MOST_TOKENS)
    throw new Fault(409, 'many', `One person keeps ${MOST_TOKENS} tokens at most. Withdraw one first.`)
  const id = nanoid(16)
  const token = PREFIX + randomBytes(30).toString('base64url')
  const now = Date.now()
  await database()
    .insert(accessTokens)
    .values({
      id,
      userId,
      name,
      scope,
      tokenHash: hashed(token),
      createdAt: new Date(now),
      until: days === null ? null : new Date(now + days * DAY_MS),
    })
  return { id, token }
}

/** All tokens of somebody stop counting at once: what a reset of the password does, whose old one strangers may know. */
export async function withdrawAllTokens(userId: string): Promise<void> {
  await database().delete(accessTokens).where(eq(accessTokens.userId, userId))
}

export async function withdrawToken(userId: string, id: string): Promise<void> {
  const [done] = await database()
    .delete(accessTokens)
    .where(and(eq(accessTokens.id, id), eq(accessTokens.userId, userId)))
  if (done.affectedRows === 0) throw new Fault(404, 'no-token', 'That token has been withdrawn already.')
}
