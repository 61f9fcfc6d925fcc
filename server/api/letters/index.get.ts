import { desc, eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { database } from '../../database/connect'
import { letters } from '../../database/schema'

export default answer(OPERATIONS.listLetters, async ({ account }) => {
  const rows = await database().select().from(letters).where(eq(letters.toEmail, account.email)).orderBy(desc(letters.createdAt)).limit(200)
  return rows.map(({ id, subject, body, link, createdAt, readAt }) => ({ id, subject, body, link, createdAt: createdAt.toISOString(), read: readAt !== null }))
})
