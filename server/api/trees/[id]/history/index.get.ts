import { OPERATIONS } from '#core/contract'
import { answer } from '../../../../access/answer'
import { sittingsBefore } from '../../../../trees/history'
import { inTurn } from '../../../../trees/in-turn'

export default answer(OPERATIONS.listHistory, async ({ params, query, account, role, version }) => ({
  role,
  ...(await inTurn(account.id, () => sittingsBefore(params.id, version, query))),
}))
