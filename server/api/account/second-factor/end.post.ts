import { eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { needPassword } from '../../../access/own-password'
import { takeCode } from '../../../access/second-factor'
import { database } from '../../../database/connect'
import { users } from '../../../database/schema'

export default answer(OPERATIONS.endSecondFactor, async ({ event, account, body }) => {
  const user = await needPassword(event, account, body.password)
  if (!(await takeCode(user, body.code))) throw new Fault(403, 'code', 'That code doesn’t fit, or was used already.')
  await database().update(users).set({ totpSecret: null, recovery: null }).where(eq(users.id, account.id))
})
