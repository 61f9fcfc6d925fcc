import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { deleteAccount } from '../../access/farewell'
import { Fault } from '../../access/fault'
import { needPassword } from '../../access/own-password'
import { takeCode } from '../../access/second-factor'
import { forgetSession } from '../../access/sessions'

export default answer(OPERATIONS.deleteAccount, async ({ event, account, body }) => {
  const user = await needPassword(event, account, body.password)
  if (user.totpSecret !== null && !(body.code && (await takeCode(user, body.code))))
    throw new Fault(403, 'code', 'Enter the code that your authenticator shows.')
  await deleteAccount(account.id, body.trees)
  await forgetSession(event)
})
