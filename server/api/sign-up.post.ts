import { OPERATIONS } from '#core/contract'
import { signUp } from '../access/accounts'
import { addressOf } from '../access/address'
import { answer } from '../access/answer'
import { openSession } from '../access/sessions'
import { mustSpend } from '../access/tries'
import { settings } from '../settings'

export default answer(OPERATIONS.signUp, async ({ event, body }) => {
  await mustSpend('sign-up', addressOf(event), settings().SIGN_UPS_AN_HOUR, 3600)
  const id = await signUp(body.email, body.name, body.password)
  if (id === null) return { confirm: true }
  await openSession(event, id)
  return { id, name: body.name, email: body.email }
})
