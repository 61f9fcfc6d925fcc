import { and, eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { database } from '../../../database/connect'
import { letters } from '../../../database/schema'

export default answer(OPERATIONS.readLetter, async ({ params, account }) => {
  await database()
    .update(letters)
    .set({ readAt: new Date() })
    .where(and(eq(letters.id, params.id), eq(letters.toEmail, account.email)))
})
