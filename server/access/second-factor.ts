import { and, eq, lt } from 'drizzle-orm'
import { customAlphabet } from 'nanoid'
import { Secret, TOTP } from 'otpauth'
import { database } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { users } from '../database/schema'
import { hashed } from './hashed'
import { countCode } from './tries'

/*
 * The second factor: time-based one-time passwords (RFC 6238: SHA-1, 6 digits, steps of 30 s, one step either way allowed
 * for a clock that is off), and recovery codes for when the phone is gone. No code counts twice.
 */

const STEP_SECONDS = 30

const totp = (secret: string, label = 'account'): TOTP =>
  new TOTP({
    issuer: 'Sun Porch',
    label,
    algorithm: 'SHA1',
    digits: 6,
    period: STEP_SECONDS,
    secret: Secret.fromBase32(secret),
  })

/** A fresh secret and the address by which an authenticator takes it. */
export function freshSecret(email: string): { secret: string; address: string } {
  const secret = new Secret({ size: 20 }).base32
  return { secret, address: totp(secret, email).toString() }
}

/** The time step that a code is for, at `now` (ms since 1970 UTC); null when it's for none near it. */
export function stepOf(secret: string, code: string, now = Date.now()): number | null {
  const delta = totp(secret).validate({ token: code.replace(/\s/g, ''), timestamp: now, window: 1 })
  return delta === null ? null : Math.floor(now / 1000 / STEP_SECONDS) + delta
}

/** Letters that aren't taken for one another. */
const part = customAlphabet('abcdefghjkmnpqrstuvwxyz23456789', 5)
/** Ten codes of 49 bits. */
export function freshRecovery(): string[] {
  return Array.from({ length: 10 }, () => `${part()}-${part()}`)
}

type Holder = Pick<typeof users.$inferSelect, 'id' | 'totpSecret' | 'recovery'>

/** Takes a code, one time. False when it's wrong or was used; throws `slowed` after too many that were. */
export async function takeCode(user: Holder, code: string): Promise<boolean> {
  const tried = await countCode(user.id)
  const right = await useUp(user, code)
  if (right) await tried.forgive()
  return right
}

async function useUp(user: Holder, code: string): Promise<boolean> {
  const step = user.totpSecret === null ? null : stepOf(user.totpSecret, code)
  if (step !== null) {
    // In one statement, so that of two at once one is too late.
    const [done] = await database()
      .update(users)
      .set({ totpStep: step })
      .where(and(eq(users.id, user.id), lt(users.totpStep, step)))
    return done.affectedRows === 1
  }
  const hash = hashed(code.trim().toLowerCase())
  return inTransaction(async tx => {
    const [row] = await tx.select({ recovery: users.recovery }).from(users).where(eq(users.id, user.id)).for('update')
    if (!row?.recovery?.includes(hash)) return false
    await tx
      .update(users)
      .set({ recovery: row.recovery.filter(one => one !== hash) })
      .where(eq(users.id, user.id))
    return true
  })
}
