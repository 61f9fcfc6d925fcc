import { sql } from 'drizzle-orm'
import type { NewsEdit } from '#core/contract'
import type { Patch } from '#core/tree'
import { database } from '../database/connect'
import type { Held } from './held'
import { ChangedRows } from './rows'

/*
 * Stores a batch of edits in one transaction and one trip to the database: a compound statement (MariaDB's BEGIN NOT
 * ATOMIC) that takes the rows' locks, checks that each tree stands where the edits were made from and that each person
 * may edit it, and only then writes the log, the topics as they are now, and the trees. Rows travel as JSON
 * (JSON_TABLE, ISO/IEC 9075-2), since building statements with thousands of parameters costs more than the database's
 * work.
 */

export interface Stored {
  readonly treeId: string
  readonly userId: string
  readonly news: NewsEdit
  readonly patches: readonly Patch[]
  readonly item: Held
}

interface Batch {
  readonly rights: { t: string; u: string }[]
  readonly trees: { id: string; was: number; v: number; by: string; title: string; fields: string | null; n: number }[]
  readonly edits: { t: string; n: number; e: string; u: string; c: string }[]
  readonly rows: ChangedRows
}

function gather(stored: readonly Stored[], countTopics: (item: Held) => number): Batch {
  const batch: Batch = { rights: [], trees: [], edits: [], rows: new ChangedRows() }
  const rights = new Set<string>()
  const recount = new Set<string>()
  const dressed = new Set<string>()
  const last = new Map<string, Stored>()
  const first = new Map<string, number>()
  for (const one of stored) {
    const { treeId, userId, news, patches } = one
    if (!rights.has(`${treeId}/${userId}`)) batch.rights.push({ t: treeId, u: userId })
    rights.add(`${treeId}/${userId}`)
    if (!first.has(treeId)) first.set(treeId, news.number - 1)
    last.set(treeId, one)
    batch.edits.push({ t: treeId, n: news.number, e: news.id, u: userId, c: JSON.stringify(news.changes) })
    for (const patch of patches) {
      batch.rows.note(treeId, patch, one.item.tree)
      const { before, after } = patch
      if (before?.removed !== after?.removed || before?.parent !== after?.parent) recount.add(treeId)
      if (patch.id === null) dressed.add(treeId)
    }
  }
  for (const [id, { item, userId }] of last) {
    batch.trees.push({
      id,
      was: first.get(id)!,
      v: item.version,
      by: userId,
      title: item.tree.topics.get(item.tree.centre)!.title,
      fields: dressed.has(id) ? JSON.stringify(item.tree.fields) : null,
      n: recount.has(id) ? countTopics(item) : -1,
    })
  }
  // Locks are taken in the order of ids, so that two processes never wait for each other.
  batch.trees.sort((a, b) => (a.id < b.id ? -1 : 1))
  return batch
}

/**
 * Commits what was made in memory. False when a tree has moved on or a right is gone: nothing is stored then.
 * Throws what the database throws, after its rollback.
 */
export async function commit(
  stored: readonly Stored[],
  at: Date,
  countTopics: (item: Held) => number,
): Promise<boolean> {
  const batch = gather(stored, countTopics)
  const [results] = (await database().execute(sql`begin not atomic
    declare standing, entitled int;
    declare exit handler for sqlexception begin rollback; resignal; end;
    start transaction;
    select count(*) into standing from (select t.id from json_table(${JSON.stringify(batch.trees)}, '$[*]' columns (
      id varchar(40) path '$.id', was int path '$.was')) x straight_join trees t on t.id = x.id and t.version = x.was and t.trashed_at is null for update) held;
    select count(*) into entitled from json_table(${JSON.stringify(batch.rights)}, '$[*]' columns (t varchar(40) path '$.t', u varchar(40) path '$.u')) x
      straight_join members m on m.tree_id = x.t and m.user_id = x.u and m.role in ('editor', 'owner') lock in share mode;
    if standing <> ${batch.trees.length} or entitled <> ${batch.rights.length} then
      rollback;
      select 0 as stored;
    else
      insert into edits (tree_id, number, edit_id, user_id, at, changes) select t, n, e, u, ${at}, c from json_table(${JSON.stringify(batch.edits)}, '$[*]' columns (
        t varchar(40) path '$.t', n int path '$.n', e varchar(40) path '$.e', u varchar(40) path '$.u', c longtext path '$.c')) x;
      ${sql.join(batch.rows.statements(), sql` `)}
      update trees t join json_table(${JSON.stringify(batch.trees)}, '$[*]' columns (id varchar(40) path '$.id', v int path '$.v', \`by\` varchar(40) path '$.by',
        title text path '$.title', fields longtext path '$.fields', n int path '$.n')) x on t.id = x.id
        set t.version = x.v, t.changed_at = ${at}, t.changed_by = x.by, t.title = x.title, t.fields = coalesce(x.fields, t.fields), t.topic_count = if(x.n < 0, t.topic_count, x.n);
      commit;
      select 1 as stored;
    end if;
  end`)) as unknown as [unknown]
  return JSON.stringify(results).includes('"stored":1')
}
