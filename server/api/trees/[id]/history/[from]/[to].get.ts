import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../../access/answer'
import { told } from '../../../../../trees/history'
import { inTurn } from '../../../../../trees/in-turn'

export default answer(OPERATIONS.listHappenings, ({ params, account, version }) =>
  inTurn(account.id, () => told(params.id, params.from, Math.min(params.to, version))),
)
