import { eq } from 'drizzle-orm'
import type { H3Event } from 'h3'
import { database } from '../database/connect'
import { users } from '../database/schema'
import { type Account, isPassword, type User } from './accounts'
import { addressOf } from './address'
import { Fault } from './fault'
import { countTry } from './tries'

/** Asks for the password once more, before what an open browser alone may not do. Throws `slowed` or `wrong`. */
export async function needPassword(event: H3Event, account: Account, password: string): Promise<User> {
  const tried = await countTry(account.email, addressOf(event), `session ${account.session ?? ''}`)
  const [user] = await database().select().from(users).where(eq(users.id, account.id))
  if (!(await isPassword(user, password)) || !user) throw new Fault(403, 'wrong', 'That isn’t your password.')
  await tried.forgive()
  return user
}
