import { OPERATIONS } from '#core/contract'
import { endAllSessions } from '../access/accounts'
import { answer } from '../access/answer'
import { expelPerson } from '../live/rooms'

export default answer(OPERATIONS.signOutEverywhere, async ({ event, account }) => {
  await endAllSessions(account.id)
  await clearUserSession(event)
  expelPerson(account.id)
})
