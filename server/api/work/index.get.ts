import { OPERATIONS } from '#core/contract'
import { answer } from '../../access/answer'
import { hasCalendarAddress } from '../../work/calendar-address'
import { sectionsOf } from '../../meetings/list'
import { askedOfOthers, openTasks } from '../../work/tasks'

export default answer(OPERATIONS.work, async ({ account }) => {
  const [mine, asked, sections, calendar] = await Promise.all([
    openTasks(account.id),
    askedOfOthers(account.id),
    sectionsOf(account.id),
    hasCalendarAddress(account.id),
  ])
  return { mine, asked, sections, calendar }
})
