import { randomBytes } from 'node:crypto'
import { and, eq, gt, lt } from 'drizzle-orm'
import { database } from '../database/connect'
import { accountLinks, users } from '../database/schema'
import { sendLetter } from '../letters/send'
import { Fault } from './fault'
import { hashed } from './hashed'
import { spend } from './tries'

/*
 * What only whoever reads the letters of an address can do: confirm it, set a new password, take it for their account. Each
 * link works once, and for a while.
 */

const HOURS_MS = 3_600_000
const HOLDS = { confirm: 72, address: 24, reset: 2 } as const
type Kind = keyof typeof HOLDS
/** Letters about accounts to one address in an hour. Those beyond are left out without a word. */
const LETTERS_AN_HOUR = 5

async function makeLink(kind: Kind, userId: string, email: string): Promise<string> {
  const token = randomBytes(24).toString('base64url')
  const db = database()
  await db.delete(accountLinks).where(and(eq(accountLinks.userId, userId), eq(accountLinks.kind, kind)))
  await db
    .insert(accountLinks)
    .values({ tokenHash: hashed(token), userId, kind, email, until: new Date(Date.now() + HOLDS[kind] * HOURS_MS) })
  return `/account/${kind}/${token}`
}

const maySend = (email: string): Promise<boolean> => spend('account letters', email, LETTERS_AN_HOUR, 3600)

export async function sendConfirmation(userId: string, email: string): Promise<void> {
  if (!(await maySend(email))) return
  await sendLetter({
    about: 'account',
    to: email,
    subject: 'Is this your mail address?',
    body: `Somebody made an account in Sun Porch with this address. If it was you, open the link and enter the password that you chose; it holds for ${HOLDS.confirm} hours. If it wasn’t, do nothing.`,
    link: await makeLink('confirm', userId, email),
  })
}

/** To somebody whose address was used to sign up, though they have an account. */
export async function sendTaken({ email }: { readonly email: string }): Promise<void> {
  if (!(await maySend(email))) return
  await sendLetter({
    about: 'account',
    to: email,
    subject: 'You have an account already',
    body: 'Somebody, you perhaps, tried to make an account in Sun Porch with this address, which has one. Sign in with it; if you don’t know the password any more, ask for a new one there. If it wasn’t you, do nothing.',
    link: '/sign-in',
  })
}

/** Writes to somebody who wants a new password. Says nothing of whether there is such an account. */
export async function sendReset(email: string): Promise<void> {
  const [user] = await database().select().from(users).where(eq(users.email, email))
  if (!user || user.lockedAt || user.deletedAt || !(await maySend(email))) return
  await sendLetter({
    about: 'account',
    to: email,
    subject: 'A new password',
    body: `Open the link to set a new password for Sun Porch; it holds for ${HOLDS.reset} hours. If you didn’t ask for it, do nothing: the old one goes on.`,
    link: await makeLink('reset', user.id, email),
  })
}

/** Writes to the address that somebody wants to have from now on. */
export async function sendNewAddress(userId: string, email: string): Promise<void> {
  if (!(await maySend(email))) return
  const [taken] = await database().select({ id: users.id }).from(users).where(eq(users.email, email))
  if (taken) {
    await sendTaken({ email })
    return
  }
  await sendLetter({
    about: 'account',
    to: email,
    subject: 'Your new mail address',
    body: `Open the link to use this address for your account in Sun Porch from now on; it holds for ${HOLDS.address} hours.`,
    link: await makeLink('address', userId, email),
  })
}

/** To the address that somebody had until now: whoever didn't do it must hear of it. */
export async function tellFormerAddress(email: string): Promise<void> {
  if (!(await maySend(email))) return
  await sendLetter({
    about: 'account',
    to: email,
    subject: 'Your account has another mail address now',
    body: 'Your account in Sun Porch has another mail address from now on. If that wasn’t you, tell whoever runs it at once.',
  })
}

const gone = (): Fault =>
  new Fault(404, 'no-link', 'This link has been used or has ended. Ask for a new one, and open the newest letter.')

/** Whom a link is for, without using it up. */
export async function readLink(kind: Kind, token: string) {
  const [row] = await database()
    .select({ link: accountLinks, user: users })
    .from(accountLinks)
    .innerJoin(users, eq(users.id, accountLinks.userId))
    .where(
      and(eq(accountLinks.tokenHash, hashed(token)), eq(accountLinks.kind, kind), gt(accountLinks.until, new Date())),
    )
  if (!row || row.user.deletedAt || row.user.lockedAt) throw gone()
  return row
}

/** Uses a link up. Throws when somebody was quicker. */
export async function useLink(token: string): Promise<void> {
  const [done] = await database()
    .delete(accountLinks)
    .where(eq(accountLinks.tokenHash, hashed(token)))
  if (done.affectedRows === 0) throw gone()
}

export async function pruneLinks(): Promise<void> {
  await database().delete(accountLinks).where(lt(accountLinks.until, new Date()))
}
