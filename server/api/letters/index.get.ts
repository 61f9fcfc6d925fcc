import { desc, eq, getTableColumns, sql } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { database } from '../../database/connect'
import { letters } from '../../database/schema'

export default answer(OPERATIONS.listLetters, async ({ account, query }) => {
  const mine = query.box === 'sent' ? eq(letters.fromUser, account.id) : eq(letters.toEmail, account.email)
  const { attachments: _, ...shown } = getTableColumns(letters)
  const rows = await database()
    // Names alone: what goes along may weigh megabytes.
    .select({ ...shown, names: sql<string | null>`cast(json_extract(${letters.attachments}, '$[*].name') as char)` })
    .from(letters)
    .where(mine)
    .orderBy(desc(letters.createdAt))
    .limit(200)
  return rows.map(({ id, toEmail, subject, body, link, names, createdAt, readAt }) => ({
    id,
    to: toEmail,
    subject,
    body,
    link,
    createdAt: createdAt.toISOString(),
    read: query.box === 'sent' || readAt !== null,
    files: names === null ? [] : (JSON.parse(names) as string[]),
  }))
})
