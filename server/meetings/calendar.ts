import type { CalendarMeeting } from '#core/formats/icalendar'
import { briefOf } from '#core/meeting/brief'
import { topicOf } from '#core/tree'
import { asCalendarMeeting } from './invite'
import { meetingsOpenTo } from './list'
import { accountsOf, everybodyIn } from './meeting'

/**
 * The meetings that somebody is asked to, in trees open to them, as their calendar takes them. What they declined
 * stays out.
 */
export async function calendarMeetings(userId: string, now: number): Promise<CalendarMeeting[]> {
  const found: CalendarMeeting[] = []
  for (const { row, tree } of await meetingsOpenTo(userId)) {
    const brief = briefOf(topicOf(tree, row.id))
    const own = brief.people.find(({ user }) => user === userId)
    if (!own || own.answer === 'declined' || brief.stage === 'cancelled') continue
    const accounts = await everybodyIn(tree)
    const chair = brief.people.find(({ role }) => role === 'chair')?.user ?? brief.invitation?.by ?? userId
    const organizer = accounts.get(chair) ?? (await accountsOf([chair])).get(chair)
    const meeting = organizer
      ? asCalendarMeeting(row.treeId, tree, row.id, accounts, organizer, brief.invitation?.sequence ?? 0, now)
      : null
    if (meeting) found.push(meeting)
  }
  return found
}
