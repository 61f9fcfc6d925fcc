import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { withdrawCalendarAddress } from '../../work/calendar-address'

export default answer(OPERATIONS.withdrawCalendar, ({ account }) => withdrawCalendarAddress(account.id))
