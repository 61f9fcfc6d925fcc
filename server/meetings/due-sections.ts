import { sql } from 'drizzle-orm'
import { itemsOf } from '#core/meeting/agenda'
import { briefOf } from '#core/meeting/brief'
import { isLive, topicOf } from '#core/tree'
import { database } from '../database/connect'
import { readTree } from '../trees/held'
import type { OpenTask } from '../work/tasks'

interface Row {
  readonly treeId: string
  readonly tree: string
  readonly version: number
  readonly id: string
}

/**
 * Sections that were asked for by one of these days (ISO 8601) and aren't ready, with the id of each owner; of
 * meetings to come alone.
 */
export async function sectionsDueOn(
  days: readonly string[],
  today: string,
): Promise<(OpenTask & { readonly userId: string })[]> {
  const [rows] = (await database().execute(sql`
    select distinct t.tree_id as treeId, tr.title as tree, tr.version, t.id from topics t
    join trees tr on tr.id = t.tree_id and tr.trashed_at is null and tr.starter = 0
    join json_table(t.rest, '$.meeting[*]' columns (kind varchar(20) path '$.kind', day varchar(10) path '$.day')) b on b.kind = 'begins' and b.day >= ${today}
    where t.meets = 1 and t.removed = 0 limit 5000`)) as unknown as [Row[]]
  const due: (OpenTask & { readonly userId: string })[] = []
  for (const { treeId, tree, version, id } of rows) {
    const held = await readTree(treeId, version)
    if (!held?.tree.topics.has(id) || !isLive(held.tree, id) || briefOf(topicOf(held.tree, id)).stage !== 'planned')
      continue
    for (const item of itemsOf(held.tree, id)) {
      if (!item.asked || item.ready || !days.includes(item.asked.by)) continue
      for (const userId of item.owners)
        due.push({
          treeId,
          tree,
          id: item.id,
          title: `Fill in: ${item.title || 'untitled'}`,
          due: item.asked.by,
          time: null,
          begins: null,
          zone: null,
          done: null,
          priority: null,
          again: null,
          role: 'viewer',
          person: null,
          userId,
        })
    }
  }
  return due
}
