import { OPERATIONS } from '#core/contract'
import { checkSignIn } from '../access/accounts'
import { addressOf } from '../access/address'
import { answer } from '../access/answer'
import { openSession } from '../access/sessions'

export default answer(OPERATIONS.signIn, async ({ event, body }) => {
  const { id } = await checkSignIn(event, body, addressOf(event))
  await openSession(event, id)
  return { id }
})
