import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { calendarAt } from '../../work/calendar-address'

export default answer(OPERATIONS.readCalendar, async ({ event, params }) => {
  const text = await calendarAt(params.token.replace(/\.ics$/, ''), Date.now())
  setResponseHeaders(event, {
    'content-type': 'text/calendar; charset=utf-8',
    'cache-control': 'private, max-age=300',
    'x-content-type-options': 'nosniff',
  })
  return text
})
