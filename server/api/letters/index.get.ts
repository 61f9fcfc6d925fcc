import { desc, eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { database } from '../../database/connect'
import { letters } from '../../database/schema'

export default answer(OPERATIONS.listLetters, async ({ account, query }) => {
  const mine = query.box === 'sent' ? eq(letters.fromUser, account.id) : eq(letters.toEmail, account.email)
  const rows = await database().select().from(letters).where(mine).orderBy(desc(letters.createdAt)).limit(200)
  return rows.map(({ id, toEmail, subject, body, link, attachments, createdAt, readAt }) => ({
    id,
    to: toEmail,
    subject,
    body,
    link,
    createdAt: createdAt.toISOString(),
    read: query.box === 'sent' || readAt !== null,
    files: (attachments ?? []).map(({ name }) => name),
  }))
})
