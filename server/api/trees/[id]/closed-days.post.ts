import { Unreadable } from '#core/capture/nested'
import { OPERATIONS } from '#core/contract'
import { NO_CALENDAR } from '#core/formats/icalendar'
import { addDays } from '#core/schedule/days'
import { answer } from '../../../access/answer'
import { runJob } from '../../../jobs/runner'
import { todayUtc } from '../../../schedule/plan-of'

export default answer(OPERATIONS.readClosedDays, ({ body, account }) => {
  // What can't be a calendar isn't worth a thread.
  if (!/BEGIN:VCALENDAR/i.test(body.text)) throw new Unreadable(NO_CALENDAR)
  const today = todayUtc()
  return runJob(
    'closedDays',
    { text: body.text, from: addDays(today, -366), until: addDays(today, 5 * 366) },
    { person: account.id },
  )
})
