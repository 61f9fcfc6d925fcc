import { randomBytes } from 'node:crypto'
import { eq, inArray } from 'drizzle-orm'
import { type Repeats, taskUid, writeCalendar } from '#core/formats/icalendar'
import { isZone } from '#core/meeting/zones'
import { apartFromRule, daysOffOf, EVERY_DAY } from '#core/schedule/turns'
import { FRESH_FIELDS } from '#core/tree/tree-fields'
import { hashed } from '../access/hashed'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { calendarAddresses, trees } from '../database/schema'
import { inTransaction } from '../database/transaction'
import { calendarMeetings } from '../meetings/calendar'
import { openTasks, type OpenTask } from './tasks'

/**
 * Makes somebody's private calendar address; the one before stops working. Only the answer holds it: what is kept is
 * its hash.
 */
export async function makeCalendarAddress(userId: string): Promise<{ path: string }> {
  const token = randomBytes(24).toString('base64url')
  const row = { userId, tokenHash: hashed(token), createdAt: new Date() }
  await inTransaction(tx =>
    tx
      .insert(calendarAddresses)
      .values(row)
      .onDuplicateKeyUpdate({ set: { tokenHash: row.tokenHash, createdAt: row.createdAt } }),
  )
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

/** Days ahead for which a calendar is told where turns differ from their rule. */
const AHEAD_DAYS = 366

/** How tasks come again, in the working calendars of their trees. */
async function repeatsOf(tasks: readonly OpenTask[]): Promise<(task: OpenTask) => Repeats | null> {
  const ids = [...new Set(tasks.filter(({ again }) => again !== null).map(({ treeId }) => treeId))]
  if (ids.length === 0) return () => null
  const rows = await database().select({ id: trees.id, fields: trees.fields }).from(trees).where(inArray(trees.id, ids))
  const off = new Map(rows.map(({ id, fields }) => [id, daysOffOf({ ...FRESH_FIELDS, ...fields })]))
  return ({ treeId, again, due }) =>
    again && due ? { rule: again.rule, ...apartFromRule(again, due, off.get(treeId) ?? EVERY_DAY, AHEAD_DAYS) } : null
}

/** The calendar behind an address: its owner's meetings, and what they have to do, by due date. */
export async function calendarAt(token: string, now: number): Promise<string> {
  const [found] = await database()
    .select({ userId: calendarAddresses.userId })
    .from(calendarAddresses)
    .where(eq(calendarAddresses.tokenHash, hashed(token)))
  if (!found) throw new Fault(404, 'no-calendar', 'There is no calendar at this address any more.')
  const [tasks, meetings] = await Promise.all([openTasks(found.userId, 2000), calendarMeetings(found.userId, now)])
  const repeats = await repeatsOf(tasks)
  return writeCalendar(
    meetings,
    tasks
      .filter(task => task.due !== null)
      .map(task => ({
        uid: taskUid(task.treeId, task.id),
        title: task.title || 'untitled',
        text: task.tree,
        due: task.due,
        time: task.time,
        begins: task.begins,
        zone: task.zone !== null && isZone(task.zone) ? task.zone : null,
        done: task.done,
        priority: task.priority,
        again: repeats(task),
        stamp: now,
      })),
  )
}
