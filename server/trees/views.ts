import { and, asc, eq } from 'drizzle-orm'
import type { SavedView } from '#core/tree/view'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { ownViews } from '../database/schema'
import { inTransaction } from '../database/transaction'

/** Views that one person keeps of one tree at most. */
const MOST = 100

/** The views that somebody keeps for themselves; those that a team shares are in the tree. */
export async function ownViewsOf(treeId: string, userId: string): Promise<SavedView[]> {
  const rows = await database()
    .select({ data: ownViews.data })
    .from(ownViews)
    .where(and(eq(ownViews.treeId, treeId), eq(ownViews.userId, userId)))
    .orderBy(asc(ownViews.name))
  return rows.map(row => row.data)
}

export async function keepOwnView(treeId: string, userId: string, view: SavedView): Promise<void> {
  const kept = await ownViewsOf(treeId, userId)
  if (kept.length >= MOST && !kept.some(one => one.id === view.id))
    throw new Fault(409, 'many', `You keep ${MOST} views of a tree at most.`)
  await inTransaction(tx =>
    tx
      .insert(ownViews)
      .values({ treeId, userId, id: view.id, name: view.name, data: view })
      .onDuplicateKeyUpdate({ set: { name: view.name, data: view } }),
  )
}

export async function dropOwnView(treeId: string, userId: string, id: string): Promise<void> {
  await database()
    .delete(ownViews)
    .where(and(eq(ownViews.treeId, treeId), eq(ownViews.userId, userId), eq(ownViews.id, id)))
}
