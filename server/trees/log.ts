import { and, asc, eq, gt, inArray, lte } from 'drizzle-orm'
import type { NewsEdit } from '#core/contract'
import { upgradeChanges } from '#core/tree'
import { database, type Database, type Transaction } from '../database/connect'
import { edits, editTopics } from '../database/schema'

/* Reading the log of edits. Whatever format an edit was written in, it's given as edits are written now. */

type Row = typeof edits.$inferSelect

/** An edit as it's told to others. */
export function newsOf({ editId, number, userId, actor, behalf, source, at, format, changes }: Row): NewsEdit {
  return {
    id: editId,
    number,
    user: userId,
    ...(actor === 'account' ? {} : { actor }),
    ...(behalf === null ? {} : { behalf }),
    ...(source === null ? {} : { source }),
    at: at.toISOString(),
    changes: upgradeChanges(format, changes),
  }
}

/** A tree's edits after `since`, to `until`, oldest first. */
export async function readLog(
  db: Database | Transaction,
  treeId: string,
  since: number,
  { until, most }: { until?: number; most?: number } = {},
): Promise<NewsEdit[]> {
  const query = db
    .select()
    .from(edits)
    .where(
      and(
        eq(edits.treeId, treeId),
        gt(edits.number, since),
        ...(until === undefined ? [] : [lte(edits.number, until)]),
      ),
    )
    .orderBy(asc(edits.number))
  return (await (most === undefined ? query : query.limit(most))).map(newsOf)
}

/** One edit of a tree by its number; undefined when there is none. */
export async function editAt(treeId: string, number: number): Promise<NewsEdit | undefined> {
  return (await readLog(database(), treeId, number - 1, { until: number }))[0]
}

/** The edits that touched a topic, oldest first, by the index of topics. */
export async function editsOfTopic(treeId: string, topicId: string, since: number, most = 500): Promise<NewsEdit[]> {
  const rows = await database()
    .select({ edit: edits })
    .from(editTopics)
    .innerJoin(edits, and(eq(edits.treeId, editTopics.treeId), eq(edits.number, editTopics.number)))
    .where(and(eq(editTopics.treeId, treeId), eq(editTopics.topicId, topicId), gt(editTopics.number, since)))
    .orderBy(asc(editTopics.number))
    .limit(most)
  return rows.map(({ edit }) => newsOf(edit))
}

/** Edits by their own ids, by tree. */
export async function editsById(
  treeIds: readonly string[],
  ids: readonly string[],
): Promise<(NewsEdit & { tree: string })[]> {
  if (treeIds.length === 0 || ids.length === 0) return []
  const rows = await database()
    .select()
    .from(edits)
    .where(and(inArray(edits.treeId, [...treeIds]), inArray(edits.editId, [...ids])))
  return rows.map(row => ({ ...newsOf(row), tree: row.treeId }))
}
