import { randomBytes } from 'node:crypto'
import { and, eq, gt, isNull } from 'drizzle-orm'
import type { H3Event } from 'h3'
import { nanoid } from 'nanoid'
import type { Principal } from '#core/contract'
import { database, databaseErrorCode } from '../database/connect'
import { invitations, users } from '../database/schema'
import { settings } from '../settings'
import { sendConfirmation, sendTaken } from './account-links'
import { Fault } from './fault'
import { knownBrowser, rememberBrowser } from './known'
import { takeCode } from './second-factor'
import { sessionOf } from './sessions'
import { tokenOf } from './tokens'
import { countTry } from './tries'

export interface Account {
  readonly id: string
  readonly name: string
  readonly email: string
  /** Where it's a browser's session. */
  readonly session: string | null
  /** Where it's a script with somebody's token. */
  readonly token: { readonly id: string; readonly scope: 'read' | 'write' } | null
}
export type User = typeof users.$inferSelect

/** Whether an account's address is known to be theirs. */
export const isConfirmed = (user: Pick<User, 'confirmedAt'>): boolean =>
  user.confirmedAt !== null || !settings().CONFIRM

/** Who does what this account asks for, as the log keeps it. */
export const principalOf = ({ id, token }: Account): Principal =>
  token === null ? { kind: 'account', id } : { kind: 'token', id: token.id, of: id }

/** Who sends this request, by a token or by the cookie and the stored session; null for nobody. */
export async function whoIs(source: H3Event | { readonly headers: Headers }): Promise<Account | null> {
  const by = await tokenOf(source.headers)
  if (by && isConfirmed(by.user)) {
    const { id, name, email } = by.user
    return { id, name, email, session: null, token: { id: by.id, scope: by.scope } }
  }
  // Whoever shows a token that doesn't count isn't somebody else by their cookie.
  if (source.headers.has('authorization')) return null
  const session = await sessionOf(source)
  if (!session) return null
  const { id, name, email } = session.user
  return { id, name, email, session: session.id, token: null }
}

/** An account as it is, whatever it may be used for. */
export async function createAccount(
  email: string,
  name: string,
  passwordHash: string,
  confirmed: boolean,
): Promise<string> {
  const id = nanoid(16)
  const now = new Date()
  await database()
    .insert(users)
    .values({ id, email, name, passwordHash, createdAt: now, confirmedAt: confirmed ? now : null })
  return id
}

export async function isInvited(email: string): Promise<boolean> {
  const rows = await database()
    .select({ email: invitations.email })
    .from(invitations)
    .where(and(eq(invitations.email, email), isNull(invitations.usedAt), gt(invitations.until, new Date())))
    .limit(1)
  return rows.length > 0
}

/**
 * Makes an account. Where addresses are confirmed, the answer is the same whether there is one already or not (null: a letter
 * is on its way), and whoever asked last for an address that nobody has confirmed is the one who can confirm it. Throws
 * `closed`, `invited` or `taken`.
 */
export async function signUp(email: string, name: string, password: string): Promise<string | null> {
  const { SIGN_UP, CONFIRM } = settings()
  if (SIGN_UP === 'closed')
    throw new Fault(403, 'closed', 'New accounts aren’t made here. Ask whoever runs this Sun Porch.')
  // Hashed in every case, which is what takes the time: else that would tell.
  const passwordHash = await hashPassword(password)
  if (SIGN_UP === 'invited' && !(await isInvited(email))) {
    // Said alike to everybody: else one could ask who is invited.
    if (CONFIRM) return null
    throw new Fault(403, 'invited', 'Accounts are made by invitation here. Ask somebody to invite this mail address.')
  }
  const [there] = await database().select().from(users).where(eq(users.email, email))
  if (!CONFIRM) {
    if (there) throw taken()
    return createAccount(email, name, passwordHash, false).catch((error: unknown) => {
      throw databaseErrorCode(error) === 'ER_DUP_ENTRY' ? taken() : error
    })
  }
  if (there?.confirmedAt) await sendTaken(there)
  else if (there) {
    await database().update(users).set({ name, passwordHash }).where(eq(users.id, there.id))
    await sendConfirmation(there.id, email)
  } else {
    const id = nanoid(16)
    await database().insert(users).ignore().values({ id, email, name, passwordHash, createdAt: new Date() })
    await sendConfirmation(id, email)
  }
  return null
}

const taken = (): Fault =>
  new Fault(409, 'taken', 'There is an account with this mail address already. Sign in instead.')

/** A hash to compare with when there is no such account, so that both cases take the same time. */
let decoy: Promise<string> | undefined

export async function isPassword(user: Pick<User, 'passwordHash'> | undefined, password: string): Promise<boolean> {
  decoy ??= hashPassword(randomBytes(16).toString('hex'))
  // What is stored may be no hash: of an account that nobody has set a password for.
  const right = await verifyPassword(user?.passwordHash ?? (await decoy), password).catch(() => false)
  return right && user !== undefined
}

/**
 * Checks a mail address, a password, and a code where the account has a second factor. The try is counted before anything is
 * looked at (see `countTry`). Throws `slowed`, `wrong`, `code` (a code is needed, or was wrong), `locked`, or `confirm`
 * (a letter to the address must be answered first; it's sent again).
 */
export async function checkSignIn(
  event: H3Event,
  given: { readonly email: string; readonly password: string; readonly code?: string | undefined },
  address: string,
): Promise<User> {
  const [user] = await database().select().from(users).where(eq(users.email, given.email))
  const tried = await countTry(given.email, address, user ? knownBrowser(event, user) : null)
  if (!(await isPassword(user, given.password)) || !user || user.deletedAt)
    throw new Fault(401, 'wrong', 'That mail address and password don’t match.')
  if (user.lockedAt) throw new Fault(403, 'locked', 'This account has been locked. Ask whoever runs this Sun Porch.')
  if (!isConfirmed(user)) {
    await tried.forgive()
    await sendConfirmation(user.id, user.email)
    throw new Fault(403, 'confirm', 'Open the letter that went to this address first. It has been sent again.')
  }
  if (user.totpSecret !== null) {
    if (given.code === undefined) {
      // The password was right: that much is no wrong try, but it opens nothing.
      await tried.forgive()
      throw new Fault(401, 'code', 'Enter the code that your authenticator shows, or a recovery code.')
    }
    if (!(await takeCode(user, given.code)))
      throw new Fault(401, 'code', 'That code doesn’t fit, or was used already. Wait for the next one.')
  }
  await tried.forgive()
  rememberBrowser(event, user)
  return user
}
