import { eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { hashed } from '../../../access/hashed'
import { freshRecovery, stepOf } from '../../../access/second-factor'
import { database } from '../../../database/connect'
import { users } from '../../../database/schema'

export default answer(OPERATIONS.setSecondFactor, async ({ account, body }) => {
  const [user] = await database().select({ has: users.totpSecret }).from(users).where(eq(users.id, account.id))
  if (user!.has !== null) throw new Fault(409, 'has', 'A second factor is on already. Turn it off first.')
  const step = stepOf(body.secret, body.code)
  if (step === null) throw new Fault(422, 'code', 'That code doesn’t fit. Is the clock of the phone right?')
  const codes = freshRecovery()
  await database()
    .update(users)
    .set({ totpSecret: body.secret, totpStep: step, recovery: codes.map(hashed) })
    .where(eq(users.id, account.id))
  return { codes }
})
