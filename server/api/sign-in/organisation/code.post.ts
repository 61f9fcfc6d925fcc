import { and, eq, isNull } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { rememberBrowser } from '../../../access/known'
import { organisationErrand } from '../../../access/organisation-errand'
import { takeCode } from '../../../access/second-factor'
import { openSession } from '../../../access/sessions'
import { database } from '../../../database/connect'
import { users } from '../../../database/schema'

export default answer(OPERATIONS.organisationCode, async ({ event, body }) => {
  const errand = await organisationErrand(event)
  const id = errand.data.user
  const [user] = id
    ? await database()
        .select()
        .from(users)
        .where(and(eq(users.id, id), isNull(users.lockedAt), isNull(users.deletedAt)))
    : []
  if (!user) throw new Fault(401, 'sign-in', 'That took too long. Sign in with the organisation once more.')
  if (!(await takeCode(user, body.code)))
    throw new Fault(401, 'code', 'That code doesn’t fit, or was used already. Wait for the next one.')
  await errand.clear()
  rememberBrowser(event, user)
  await openSession(event, user.id)
  return { id: user.id }
})
