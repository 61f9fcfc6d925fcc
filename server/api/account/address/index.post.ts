import { OPERATIONS } from '#core/contract'
import { needPassword } from '../../../access/own-password'
import { sendNewAddress } from '../../../access/account-links'
import { answer } from '../../../access/answer'

export default answer(OPERATIONS.askAddress, async ({ event, account, body }) => {
  await needPassword(event, account, body.password)
  await sendNewAddress(account.id, body.email)
})
