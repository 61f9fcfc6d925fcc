import { OPERATIONS } from '#core/contract'
import { answer } from '../access/answer'
import { endAllSessions, forgetSession } from '../access/sessions'

export default answer(OPERATIONS.signOutEverywhere, async ({ event, account }) => {
  await endAllSessions(account.id)
  await forgetSession(event)
})
