import { and, eq, isNotNull, lt, or, sql } from 'drizzle-orm'
import { pruneLinks } from '../access/account-links'
import { pruneSessions } from '../access/sessions'
import { database } from '../database/connect'
import { invitations, snapshots, tellings, trees } from '../database/schema'
import { pruneMade } from '../documents/made-store'
import { pruneQueue } from '../letters/queue'
import { log } from '../log'
import { settings } from '../settings'
import { removeTree } from '../trees/remove'

/*
 * What has served its time is taken out, once an hour: sessions, links, invitations, letters that went out, snapshots between
 * those that are needed, counts of tries, and trees past their time in the trash. The log of edits never, but with its tree.
 */

const EVERY_MS = 3_600_000
const DAY_MS = 86_400_000
/** Newest snapshots of a tree that are kept; older ones are left this many edits apart, so that any moment opens soon. */
const NEWEST_SNAPSHOTS = 5
const APART = 2000

/** Takes out old snapshots of a tree: never number 0, which the log begins from. */
async function pruneSnapshots(): Promise<void> {
  const many = await database()
    .select({ treeId: snapshots.treeId })
    .from(snapshots)
    .groupBy(snapshots.treeId)
    .having(sql`count(*) > ${NEWEST_SNAPSHOTS + 1}`)
  for (const { treeId } of many) {
    const rows = await database()
      .select({ number: snapshots.number })
      .from(snapshots)
      .where(eq(snapshots.treeId, treeId))
      .orderBy(snapshots.number)
    let kept = 0
    for (const { number } of rows.slice(0, -NEWEST_SNAPSHOTS)) {
      // From the oldest on, so that what stays once stays always.
      if (number === 0 || number - kept >= APART) kept = number
      else
        await database()
          .delete(snapshots)
          .where(and(eq(snapshots.treeId, treeId), eq(snapshots.number, number)))
    }
  }
}

async function pruneTrees(): Promise<void> {
  const days = settings().TRASH_DAYS
  if (days === 0) return
  const rows = await database()
    .select({ id: trees.id })
    .from(trees)
    .where(and(isNotNull(trees.trashedAt), lt(trees.trashedAt, new Date(Date.now() - days * DAY_MS))))
  for (const { id } of rows) await removeTree(id)
}

/** One round. */
export async function prune(): Promise<void> {
  await pruneSessions()
  await pruneLinks()
  await pruneQueue()
  await pruneMade()
  await database()
    .delete(invitations)
    .where(
      or(
        lt(invitations.until, new Date(Date.now() - 30 * DAY_MS)),
        lt(invitations.usedAt, new Date(Date.now() - 365 * DAY_MS)),
      ),
    )
  await database().execute(sql`delete from rate_limits where expire < ${Date.now() - EVERY_MS}`)
  // What was read is news no more; what nobody reads isn't either, some day.
  await database()
    .delete(tellings)
    .where(
      or(lt(tellings.readAt, new Date(Date.now() - 90 * DAY_MS)), lt(tellings.at, new Date(Date.now() - 365 * DAY_MS))),
    )
  await pruneSnapshots()
  await pruneTrees()
}

let timer: NodeJS.Timeout | undefined
export function startPruning(): void {
  const round = (): void =>
    void prune().catch((error: unknown) => log.error({ error }, 'pruning waits for the next round'))
  timer = setInterval(round, EVERY_MS)
  timer.unref()
  setTimeout(round, 60_000).unref()
}
export const stopPruning = (): void => clearInterval(timer)
