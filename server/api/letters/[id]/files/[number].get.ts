import { and, eq, or } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { Fault } from '../../../../access/fault'
import { database } from '../../../../database/connect'
import { letters } from '../../../../database/schema'
import { saveAs } from '../../../../files/disposition'

export default answer(OPERATIONS.openLetterFile, async ({ event, account, params }) => {
  const [letter] = await database()
    .select({ attachments: letters.attachments })
    .from(letters)
    .where(and(eq(letters.id, params.id), or(eq(letters.toEmail, account.email), eq(letters.fromUser, account.id))))
  const file = letter?.attachments?.[params.number]
  if (!file) throw new Fault(404, 'no-file', 'There is no such file with this letter.')
  setResponseHeaders(event, {
    'content-type': file.type,
    'content-disposition': saveAs(file.name),
    // A page or drawing that somebody opens from here runs nothing and reaches nothing of this house.
    'content-security-policy': "default-src 'none'; img-src data:; style-src 'unsafe-inline'; sandbox",
  })
  return file.packed ? Buffer.from(file.text, 'base64') : file.text
})
