import { OPERATIONS } from '#core/contract'
import { endSession } from '../access/accounts'
import { answer } from '../access/answer'

export default answer(OPERATIONS.signOut, async ({ event, account }) => {
  if (account) await endSession(account.session)
  await clearUserSession(event)
})
