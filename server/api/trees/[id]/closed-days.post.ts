import { OPERATIONS } from '#core/contract'
import { addDays } from '#core/schedule/days'
import { answer } from '../../../access/answer'
import { runJob } from '../../../jobs/runner'
import { todayUtc } from '../../../schedule/plan-of'

export default answer(OPERATIONS.readClosedDays, ({ body, account }) => {
  const today = todayUtc()
  return runJob(
    'closedDays',
    { text: body.text, from: addDays(today, -366), until: addDays(today, 5 * 366) },
    { person: account.id },
  )
})
