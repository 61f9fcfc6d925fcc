import { OPERATIONS } from '#core/contract'
import { answer } from '../../../access/answer'
import { askPlan, readBaseline, todayOf, treeToPlan } from '../../../schedule/plan-of'

export default answer(OPERATIONS.readSchedule, async ({ params, query, account, version, epoch }) => {
  const item = await treeToPlan(params.id, version, epoch)
  const baseline =
    query.baseline === undefined ? null : await readBaseline(params.id, query.baseline, version, account.id)
  return askPlan(item, query.status ?? todayOf(item.tree), { kind: 'plan', baseline }, account.id)
})
