import { and, eq } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { Transaction } from '../database/connect'
import { database, databaseErrorCode } from '../database/connect'
import { accessTokens, accountLinks, organisationAccounts, users } from '../database/schema'
import { inTransaction } from '../database/transaction'
import { sendLetter } from '../letters/send'
import { settings } from '../settings'
import { isInvited, type User } from './accounts'
import { Fault } from './fault'
import type { OrganisationPerson } from './organisation'
import { endAllSessions } from './sessions'

/** No password opens an account that has this in place of a hash; one can be set by letter. */
const NO_PASSWORD = '-'
export const hasPassword = (user: Pick<User, 'passwordHash'>): boolean => user.passwordHash !== NO_PASSWORD

/**
 * The account of somebody whom the organisation vouches for: the one that was joined before, else the one with their address, else
 * a new one where accounts are made. An account that nobody has confirmed is taken over without what it was made
 * with: whoever wrote that address into a form first has no part in it. Throws `locked`, `joined` (somebody else of
 * the organisation has that account) or `closed`.
 */
export async function accountOf(person: OrganisationPerson): Promise<User> {
  const settled = (): Promise<Settled> => inTransaction(tx => settle(tx, person))
  // Two at the same moment, and the other one was first: then it's there.
  const { user, joined, taken } = await settled().catch((error: unknown) => {
    if (databaseErrorCode(error) !== 'ER_DUP_ENTRY') throw error
    return settled()
  })
  if (taken) await endAllSessions(user.id)
  if (joined)
    await sendLetter({
      about: 'account',
      to: user.email,
      subject: 'Your account opens in a second way now',
      body: `Your account in Sun Porch opens with the sign-in of ${settings().OIDC_NAME} from now on, since that vouches for your address. If that wasn’t you, tell whoever runs it at once.`,
    })
  return user
}

interface Settled {
  readonly user: User
  /** An account that was there has been joined. */
  readonly joined: boolean
  /** One that nobody had confirmed. */
  readonly taken: boolean
}

async function settle(tx: Transaction, person: OrganisationPerson): Promise<Settled> {
  const { issuer, subject } = person
  const now = new Date()
  const [known] = await tx
    .select({ user: users })
    .from(organisationAccounts)
    .innerJoin(users, eq(users.id, organisationAccounts.userId))
    .where(and(eq(organisationAccounts.issuer, issuer), eq(organisationAccounts.subject, subject)))
  if (known && !known.user.deletedAt) {
    if (known.user.lockedAt) throw locked()
    return { user: known.user, joined: false, taken: false }
  }
  if (known)
    await tx
      .delete(organisationAccounts)
      .where(and(eq(organisationAccounts.issuer, issuer), eq(organisationAccounts.subject, subject)))
  const [there] = await tx.select().from(users).where(eq(users.email, person.email)).for('update')
  if (!there) {
    const { SIGN_UP } = settings()
    // The organisation's word is an invitation; where nobody makes accounts, it doesn't make one either.
    if (SIGN_UP === 'closed' && !(await isInvited(person.email)))
      throw new Fault(403, 'closed', 'New accounts aren’t made here. Ask whoever runs this Sun Porch.')
    const id = nanoid(16)
    await tx
      .insert(users)
      .values({
        id,
        email: person.email,
        name: person.name,
        passwordHash: NO_PASSWORD,
        createdAt: now,
        confirmedAt: now,
      })
    await tx.insert(organisationAccounts).values({ issuer, subject, userId: id, since: now })
    const [user] = await tx.select().from(users).where(eq(users.id, id))
    return { user: user!, joined: false, taken: false }
  }
  if (there.lockedAt) throw locked()
  const [other] = await tx
    .select({ subject: organisationAccounts.subject })
    .from(organisationAccounts)
    .where(and(eq(organisationAccounts.userId, there.id), eq(organisationAccounts.issuer, issuer)))
  // An address that was somebody's and is another's now: what was theirs isn't.
  if (other)
    throw new Fault(
      409,
      'joined',
      'Somebody else of the organisation has the account with this address. Ask whoever runs this Sun Porch.',
    )
  const taken = there.confirmedAt === null
  if (taken) {
    await tx
      .update(users)
      .set({ passwordHash: NO_PASSWORD, confirmedAt: now, totpSecret: null, recovery: null })
      .where(eq(users.id, there.id))
    await tx.delete(accessTokens).where(eq(accessTokens.userId, there.id))
    await tx.delete(accountLinks).where(eq(accountLinks.userId, there.id))
  }
  await tx.insert(organisationAccounts).values({ issuer, subject, userId: there.id, since: now })
  const [user] = await tx.select().from(users).where(eq(users.id, there.id))
  return { user: user!, joined: true, taken }
}

const locked = (): Fault => new Fault(403, 'locked', 'This account has been locked. Ask whoever runs this Sun Porch.')

/** Whether an organisation's sign-in opens somebody's account. */
export async function isJoined(userId: string): Promise<boolean> {
  const rows = await database()
    .select({ issuer: organisationAccounts.issuer })
    .from(organisationAccounts)
    .where(eq(organisationAccounts.userId, userId))
    .limit(1)
  return rows.length > 0
}

/** The organisation's sign-in opens it no more. Throws `no-password` where nothing else would. */
export async function leaveOrganisation(userId: string): Promise<void> {
  const [user] = await database().select().from(users).where(eq(users.id, userId))
  if (!hasPassword(user!))
    throw new Fault(409, 'no-password', 'Set a password first: without one nothing would open your account.')
  await database().delete(organisationAccounts).where(eq(organisationAccounts.userId, userId))
}
