import { eq } from 'drizzle-orm'
import { isSealed, sealed } from '../access/hashed'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { mailStopped } from '../database/schema'
import { outsideAddress } from './addresses'

/* Every letter says how its reader gets no more of them. The way is a seal over the address, so that nothing need be kept. */

const tokenFor = (email: string): string => `${Buffer.from(email).toString('base64url')}.${sealed('stop', email)}`

/** Where a letter's reader can say that they want no more: a page to read, and an address that a mail program posts to. */
export function stopAddress(email: string): { page: string; post: string } {
  const token = tokenFor(email)
  return { page: outsideAddress(`/stop/${token}`), post: outsideAddress(`/api/stop/${token}`) }
}

export async function isStopped(email: string): Promise<boolean> {
  const [row] = await database().select().from(mailStopped).where(eq(mailStopped.email, email))
  return row !== undefined
}

/** Throws `no-link` for what isn't from here. */
export async function stopLetters(token: string): Promise<void> {
  const [address = '', seal = ''] = token.split('.')
  const email = Buffer.from(address, 'base64url').toString()
  if (!isSealed('stop', email, seal)) throw new Fault(404, 'no-link', 'This link isn’t from here, or isn’t whole.')
  await database().insert(mailStopped).ignore().values({ email, at: new Date() })
}
