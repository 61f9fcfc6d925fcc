import { OPERATIONS } from '#core/contract'
import { endAllSessions } from '../access/accounts'
import { answer } from '../access/answer'
import { bus } from '../bus'

export default answer(OPERATIONS.signOutEverywhere, async ({ event, account }) => {
  await endAllSessions(account.id)
  await clearUserSession(event)
  bus.tell({ about: 'signed-out', account: account.id })
})
