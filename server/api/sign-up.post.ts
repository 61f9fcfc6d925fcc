import { OPERATIONS } from '#core/contract'
import { createAccount, openSession } from '../access/accounts'
import { answer } from '../access/answer'

export default answer(OPERATIONS.signUp, async ({ event, body }) => {
  const id = await createAccount(body.email, body.name, body.password)
  await openSession(event, id)
  return { id, name: body.name, email: body.email }
})
