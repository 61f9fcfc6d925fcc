import { eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { needPassword } from '../../access/own-password'
import { rememberBrowser } from '../../access/known'
import { endAllSessions } from '../../access/sessions'
import { database } from '../../database/connect'
import { users } from '../../database/schema'

export default answer(OPERATIONS.changePassword, async ({ event, account, body }) => {
  await needPassword(event, account, body.password)
  const passwordHash = await hashPassword(body.fresh)
  await database().update(users).set({ passwordHash }).where(eq(users.id, account.id))
  await endAllSessions(account.id, account.session ?? undefined)
  rememberBrowser(event, { id: account.id, passwordHash })
})
