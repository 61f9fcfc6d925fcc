import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { makeToken } from '../../../access/tokens'

export default answer(OPERATIONS.makeToken, ({ account, body }) => makeToken(account.id, body))
