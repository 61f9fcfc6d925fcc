import { OPERATIONS } from '#core/contract'
import { checkPassword, openSession } from '../access/accounts'
import { answer } from '../access/answer'

export default answer(OPERATIONS.signIn, async ({ event, body }) => {
  const id = await checkPassword(body.email, body.password, getRequestIP(event) ?? 'unknown')
  await openSession(event, id)
  return { id }
})
