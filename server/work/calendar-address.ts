import { randomBytes } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { taskUid, writeCalendar } from '#core/formats/icalendar'
import { hashed } from '../access/hashed'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { calendarAddresses } from '../database/schema'
import { calendarMeetings } from '../meetings/calendar'
import { openTasks } from './tasks'

/**
 * Makes somebody's private calendar address; the one before stops working. Only the answer holds it: what is kept is
 * its hash.
 */
export async function makeCalendarAddress(userId: string): Promise<{ path: string }> {
  const token = randomBytes(24).toString('base64url')
  const row = { userId, tokenHash: hashed(token), createdAt: new Date() }
  await database()
    .insert(calendarAddresses)
    .values(row)
    .onDuplicateKeyUpdate({ set: { tokenHash: row.tokenHash, createdAt: row.createdAt } })
  return { path: `/api/calendars/${token}` }
}

export async function withdrawCalendarAddress(userId: string): Promise<void> {
  await database().delete(calendarAddresses).where(eq(calendarAddresses.userId, userId))
}

export async function hasCalendarAddress(userId: string): Promise<boolean> {
  return (
    (
      await database()
        .select({ userId: calendarAddresses.userId })
        .from(calendarAddresses)
        .where(eq(calendarAddresses.userId, userId))
    ).length > 0
  )
}

/** The calendar behind an address: its owner's meetings, and what they have to do, by due date. */
export async function calendarAt(token: string, now: number): Promise<string> {
  const [found] = await database()
    .select({ userId: calendarAddresses.userId })
    .from(calendarAddresses)
    .where(eq(calendarAddresses.tokenHash, hashed(token)))
  if (!found) throw new Fault(404, 'no-calendar', 'There is no calendar at this address any more.')
  const [tasks, meetings] = await Promise.all([openTasks(found.userId, 2000), calendarMeetings(found.userId, now)])
  return writeCalendar(
    meetings,
    tasks
      .filter(task => task.due !== null)
      .map(({ treeId, id, title, tree, due, done, priority }) => ({
        uid: taskUid(treeId, id),
        title: title || 'untitled',
        text: tree,
        due,
        done,
        priority,
        stamp: now,
      })),
  )
}
