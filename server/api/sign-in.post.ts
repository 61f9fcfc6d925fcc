import { OPERATIONS } from '#core/contract'
import { checkPassword, openSession } from '../access/accounts'
import { addressOf } from '../access/address'
import { answer } from '../access/answer'

export default answer(OPERATIONS.signIn, async ({ event, body }) => {
  const id = await checkPassword(body.email, body.password, addressOf(event))
  await openSession(event, id)
  return { id }
})
