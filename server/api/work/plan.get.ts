import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { todayUtc } from '../../schedule/plan-of'
import { plansOfWork } from '../../work/planned'

export default answer(OPERATIONS.workPlan, ({ account, query }) => plansOfWork(account.id, query.today ?? todayUtc()))
