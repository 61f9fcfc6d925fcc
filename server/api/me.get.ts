import { eq, sql } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'
import { database } from '../database/connect'
import { users } from '../database/schema'

export default answer(OPERATIONS.me, async ({ account: { id, name, email } }) => {
  const [user] = await database()
    .select({ square: users.square, zone: users.zone, picture: sql<number>`${users.picture} is not null` })
    .from(users)
    .where(eq(users.id, id))
  return { id, name, email, zone: user?.zone ?? null, picture: Boolean(user?.picture), square: user?.square ?? false }
})
