import { type SQL, sql } from 'drizzle-orm'
import type { NewsEdit } from '#core/contract'
import { BLANK, type Patch, type Topic } from '#core/tree'
import { database } from '../database/connect'
import type { Held } from './held'

/*
 * Stores a batch of edits in one transaction and one trip to the database: a compound statement (MariaDB's BEGIN NOT
 * ATOMIC)
 * that takes the rows' locks, checks that each tree stands where the edits were made from and that each person may edit
 * it,
 * and only then writes the log, the topics as they are now, and the trees. Rows travel as JSON (JSON_TABLE, ISO/IEC
 * 9075-2),
 * since building statements with thousands of parameters costs more than the database's work.
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
  readonly trees: { id: string; was: number; v: number; by: string; title: string; fields: string; n: number }[]
  readonly edits: { t: string; n: number; e: string; u: string; c: string }[]
  readonly topics: Map<string, { treeId: string; topic: Topic }>
  readonly people: Map<string, { treeId: string; topic: Topic }>
  readonly markers: Map<string, { treeId: string; topic: Topic }>
}

function gather(stored: readonly Stored[], countTopics: (item: Held) => number): Batch {
  const batch: Batch = { rights: [], trees: [], edits: [], topics: new Map(), people: new Map(), markers: new Map() }
  const rights = new Set<string>()
  const recount = new Set<string>()
  const last = new Map<string, Stored>()
  const first = new Map<string, number>()
  for (const one of stored) {
    const { treeId, userId, news, patches } = one
    if (!rights.has(`${treeId}/${userId}`)) batch.rights.push({ t: treeId, u: userId })
    rights.add(`${treeId}/${userId}`)
    if (!first.has(treeId)) first.set(treeId, news.number - 1)
    last.set(treeId, one)
    batch.edits.push({ t: treeId, n: news.number, e: news.id, u: userId, c: JSON.stringify(news.changes) })
    for (const { id, before, after } of patches) {
      if (id === null || before === after) continue
      const topic = one.item.tree.topics.get(id)!
      batch.topics.set(`${treeId}/${id}`, { treeId, topic })
      if (before?.removed !== after?.removed || before?.parent !== after?.parent) recount.add(treeId)
      for (const set of ['people', 'markers'] as const)
        if (before?.[set] !== after?.[set] && (before || after![set].length !== 0))
          batch[set].set(`${treeId}/${id}`, { treeId, topic })
    }
  }
  for (const [id, { item, userId }] of last) {
    batch.trees.push({
      id,
      was: first.get(id)!,
      v: item.version,
      by: userId,
      title: item.tree.topics.get(item.tree.centre)!.title,
      fields: JSON.stringify(item.tree.fields),
      n: recount.has(id) ? countTopics(item) : -1,
    })
  }
  // Locks are taken in the order of ids, so that two processes never wait for each other.
  batch.trees.sort((a, b) => (a.id < b.id ? -1 : 1))
  return batch
}

const COLUMNS: readonly string[] = [
  'removed',
  'title',
  'start',
  'due',
  'duration',
  'done',
  'priority',
  'markers',
  'people',
  'links',
  'note',
]
const REST = (Object.keys(BLANK) as (keyof typeof BLANK)[]).filter(key => !COLUMNS.includes(key))

/** A topic as its row, with what no query asks for as one JSON field. */
export function topicRow(treeId: string, topic: Topic): Record<string, unknown> {
  const rest: Record<string, unknown> = {}
  for (const key of REST) {
    const value = topic[key]
    if (Array.isArray(value) ? value.length > 0 : value !== BLANK[key]) rest[key] = value
  }
  return {
    t: treeId,
    id: topic.id,
    p: topic.parent,
    o: topic.order,
    r: topic.removed ? 1 : 0,
    title: topic.title,
    s: topic.start,
    d: topic.due,
    l: topic.duration,
    done: topic.done,
    pr: topic.priority,
    rest: JSON.stringify(rest),
    links: JSON.stringify(topic.links),
    note: topic.note,
  }
}

export const TOPIC_UPSERT = (rows: readonly Record<string, unknown>[]): SQL => sql`insert into topics
  (tree_id, id, parent, order_key, removed, title, start, due, duration, done, priority, rest, links, note)
  select t, id, p, o, r, title, s, d, l, done, pr, rest, links, from_base64(note) from json_table(${JSON.stringify(rows)}, '$[*]' columns (
    t varchar(40) path '$.t', id varchar(40) path '$.id', p varchar(40) path '$.p', o varchar(400) path '$.o', r tinyint path '$.r',
    title text path '$.title', s varchar(10) path '$.s', d varchar(10) path '$.d', l double path '$.l', done tinyint path '$.done', pr tinyint path '$.pr',
    rest longtext path '$.rest', links longtext path '$.links', note longtext path '$.note')) x
  on duplicate key update parent = values(parent), order_key = values(order_key), removed = values(removed), title = values(title), start = values(start),
    due = values(due), duration = values(duration), done = values(done), priority = values(priority), rest = values(rest), links = values(links), note = values(note);`

const SETS = {
  people: { table: sql.raw('topic_people'), column: sql.raw('user_id') },
  markers: { table: sql.raw('topic_markers'), column: sql.raw('marker') },
} as const

/** Puts the members of the given topics' sets where the old ones were. */
export function memberRows(set: 'people' | 'markers', changed: readonly { treeId: string; topic: Topic }[]): SQL {
  const { table, column } = SETS[set]
  const keys = changed.map(({ treeId, topic }) => ({ t: treeId, id: topic.id }))
  const members = changed.flatMap(({ treeId, topic }) =>
    topic[set].map((member, place) => ({ t: treeId, id: topic.id, m: member, n: place })),
  )
  return sql`delete m from ${table} m join json_table(${JSON.stringify(keys)}, '$[*]' columns (t varchar(40) path '$.t', id varchar(40) path '$.id')) x
      on m.tree_id = x.t and m.topic_id = x.id;
    insert into ${table} (tree_id, topic_id, ${column}, place) select t, id, m, n from json_table(${JSON.stringify(members)}, '$[*]' columns (
      t varchar(40) path '$.t', id varchar(40) path '$.id', m varchar(40) path '$.m', n int path '$.n')) x;`
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
  const sets = (['people', 'markers'] as const)
    .filter(set => batch[set].size > 0)
    .map(set => memberRows(set, [...batch[set].values()]))
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
      ${batch.topics.size > 0 ? TOPIC_UPSERT([...batch.topics.values()].map(({ treeId, topic }) => topicRow(treeId, topic))) : sql``}
      ${sql.join(sets, sql` `)}
      update trees t join json_table(${JSON.stringify(batch.trees)}, '$[*]' columns (id varchar(40) path '$.id', v int path '$.v', \`by\` varchar(40) path '$.by',
        title text path '$.title', fields longtext path '$.fields', n int path '$.n')) x on t.id = x.id
        set t.version = x.v, t.changed_at = ${at}, t.changed_by = x.by, t.title = x.title, t.fields = x.fields, t.topic_count = if(x.n < 0, t.topic_count, x.n);
      commit;
      select 1 as stored;
    end if;
  end`)) as unknown as [unknown]
  return JSON.stringify(results).includes('"stored":1')
}
