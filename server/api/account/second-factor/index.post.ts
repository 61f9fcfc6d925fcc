import { toString } from 'qrcode'
import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { needPassword } from '../../../access/own-password'
import { freshSecret } from '../../../access/second-factor'

export default answer(OPERATIONS.beginSecondFactor, async ({ event, account, body }) => {
  await needPassword(event, account, body.password)
  const { secret, address } = freshSecret(account.email)
  return { secret, address, picture: await toString(address, { type: 'svg', margin: 1 }) }
})
