import { sql } from 'drizzle-orm'
import { database } from '../database/connect'

export interface OpenTask {
  readonly treeId: string
  readonly tree: string
  readonly id: string
  readonly title: string
  readonly due: string | null
  readonly done: number | null
}

/** Everything unfinished that somebody is on, in all trees open to them, by due date, undated last. One indexed query and its paths. */
export async function openTasks(userId: string, most = 200): Promise<OpenTask[]> {
  // A task in a branch that lies in the trash isn't owed: the path up is walked and dropped when any step is removed.
  const [rows] = await database().execute(sql`
    with recursive mine as (
      select t.tree_id, t.id, t.title, t.due, t.done, t.removed, t.parent, tr.title as tree
      from topic_people p
      join members m on m.tree_id = p.tree_id and m.user_id = p.user_id
      join trees tr on tr.id = p.tree_id and tr.trashed_at is null
      join topics t on t.tree_id = p.tree_id and t.id = p.topic_id
      where p.user_id = ${userId} and coalesce(t.done, 0) < 100 and t.removed = 0
    ), up as (
      select tree_id, id, parent, removed from mine
      union distinct
      select up.tree_id, up.id, a.parent, a.removed from up join topics a on a.tree_id = up.tree_id and a.id = up.parent where up.parent is not null
    )
    select mine.tree_id as treeId, mine.tree, mine.id, mine.title, mine.due, mine.done from mine
    where not exists (select 1 from up where up.tree_id = mine.tree_id and up.id = mine.id and up.removed = 1)
    order by mine.due is null, mine.due, mine.title limit ${most}`) as unknown as [OpenTask[]]
  return rows
}
