import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { makeCalendarAddress } from '../../work/calendar-address'

export default answer(OPERATIONS.makeCalendar, ({ account }) => makeCalendarAddress(account.id))
