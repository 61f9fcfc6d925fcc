import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { changeWays } from '../../telling/ways'

export default answer(OPERATIONS.changeToldWays, ({ body, account }) => changeWays(account.id, body))
