import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { askPlan, todayOf, treeToPlan } from '../../../schedule/plan-of'

export default answer(OPERATIONS.readLoad, async ({ params, query, account, version, epoch }) => {
  const item = await treeToPlan(params.id, version, epoch)
  return askPlan(item, query.status ?? todayOf(item.tree), { kind: 'load' }, account.id)
})
