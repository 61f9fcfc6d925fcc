import { eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { readLink, useLink } from '../../../access/account-links'
import { answer } from '../../../access/answer'
import { endAllSessions } from '../../../access/sessions'
import { withdrawAllTokens } from '../../../access/tokens'
import { database } from '../../../database/connect'
import { users } from '../../../database/schema'

export default answer(OPERATIONS.reset, async ({ params, body }) => {
  const { user } = await readLink('reset', params.token)
  const passwordHash = await hashPassword(body.password)
  await useLink(params.token)
  // Whoever reads the letters of the address has shown that it's theirs.
  await database()
    .update(users)
    .set({ passwordHash, confirmedAt: user.confirmedAt ?? new Date() })
    .where(eq(users.id, user.id))
  await endAllSessions(user.id)
  // Whoever had the password may have made tokens with it.
  await withdrawAllTokens(user.id)
})
