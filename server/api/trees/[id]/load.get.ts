import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { askPlan, todayUtc, treeToPlan } from '../../../schedule/plan-of'

export default answer(OPERATIONS.readLoad, async ({ params, query, account, version, epoch }) =>
  askPlan(await treeToPlan(params.id, version, epoch), query.status ?? todayUtc(), { kind: 'load' }, account.id),
)
