import { and, count, eq, isNull } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { database } from '../../database/connect'
import { letters } from '../../database/schema'

export default answer(OPERATIONS.countLetters, async ({ account }) => {
  const [row] = await database()
    .select({ count: count() })
    .from(letters)
    .where(and(eq(letters.toEmail, account.email), isNull(letters.readAt)))
  return { count: row?.count ?? 0 }
})
