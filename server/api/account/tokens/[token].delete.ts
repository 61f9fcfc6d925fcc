import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { withdrawToken } from '../../../access/tokens'

export default answer(OPERATIONS.withdrawToken, ({ account, params }) => withdrawToken(account.id, params.token))
