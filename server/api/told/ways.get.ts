import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { toldWaysOf } from '../../telling/watching'

export default answer(OPERATIONS.toldWays, ({ account }) => toldWaysOf(account.id))
