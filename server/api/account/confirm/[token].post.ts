import { eq } from 'drizzle-orm'
import { OPERATIONS } from '#core/contract'
import { isPassword } from '../../../access/accounts'
import { readLink, useLink } from '../../../access/account-links'
import { addressOf } from '../../../access/address'
import { answer } from '../../../access/answer'
import { Fault } from '../../../access/fault'
import { rememberBrowser } from '../../../access/known'
import { openSession } from '../../../access/sessions'
import { countTry } from '../../../access/tries'
import { database } from '../../../database/connect'
import { users } from '../../../database/schema'

export default answer(OPERATIONS.confirm, async ({ event, params, body }) => {
  const { user } = await readLink('confirm', params.token)
  const tried = await countTry(user.email, addressOf(event), null)
  // Somebody else may have signed up with this address: then the letter's reader doesn't know the password, and that account never opens.
  if (!(await isPassword(user, body.password)))
    throw new Fault(401, 'wrong', 'That isn’t the password which was chosen with this address. Or set a new one.')
  await useLink(params.token)
  await tried.forgive()
  await database().update(users).set({ confirmedAt: new Date() }).where(eq(users.id, user.id))
  rememberBrowser(event, user)
  await openSession(event, user.id)
})
