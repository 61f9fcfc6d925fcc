import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { readTold } from '../../telling/read'

export default answer(OPERATIONS.readTold, ({ body, account }) => readTold(account.id, body))
