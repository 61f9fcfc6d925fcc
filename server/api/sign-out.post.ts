import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'
import { endSession, forgetSession } from '../access/sessions'

export default answer(OPERATIONS.signOut, async ({ event, account }) => {
  if (account?.session) await endSession(account.session)
  await forgetSession(event)
})
