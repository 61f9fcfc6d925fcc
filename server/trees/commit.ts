import { sql } from 'drizzle-orm'
import { accountOf, type Role } from '#core/contract'
import { countTopics, EDIT_FORMAT } from '#core/tree'
import { database } from '../database/connect'
import type { LiveTree, Staged } from './live-tree'
import { ChangedRows, ID } from './rows'

/*
 * Stores a batch of edits in one transaction and one trip to the database: a compound statement (MariaDB's BEGIN NOT
 * ATOMIC) that takes the rows' locks, checks that each tree stands where the edits were made from and that everybody has
 * the role that they were allowed for, and only then writes the log, the topics as they are now, and the trees.
 */

const KEY = sql.raw(ID)

interface Batch {
  readonly rights: { t: string; u: string; r: Role }[]
  readonly guests: { t: string; p: string }[]
  readonly trees: {
    id: string
    was: number
    v: number
    by: string | null
    title: string
    fields: string | null
    n: number
  }[]
  readonly edits: {
    t: string
    n: number
    e: string
    u: string
    k: string
    b: string | null
    s: string | null
    c: string
  }[]
  readonly touched: { t: string; n: number; o: string[] }[]
  readonly rows: ChangedRows
}

function gather(staged: readonly Staged[]): Batch {
  const batch: Batch = { rights: [], guests: [], trees: [], edits: [], touched: [], rows: new ChangedRows() }
  const seen = new Set<string>()
  const recount = new Set<LiveTree>()
  const dressed = new Set<LiveTree>()
  const span = new Map<LiveTree, { was: number; last: Staged }>()
  for (const one of staged) {
    const { live, principal, actor, role, news, patches } = one
    const right = `${live.id}/${actor.kind}/${actor.id}`
    if (!seen.has(right)) {
      seen.add(right)
      if (principal.kind === 'guest') batch.guests.push({ t: live.id, p: principal.id })
      else if (principal.kind !== 'app') batch.rights.push({ t: live.id, u: accountOf(principal)!, r: role! })
    }
    span.set(live, { was: span.get(live)?.was ?? news.number - 1, last: one })
    batch.edits.push({
      t: live.id,
      n: news.number,
      e: news.id,
      u: actor.id,
      k: actor.kind,
      b: actor.behalf,
      s: news.source ? JSON.stringify(news.source) : null,
      c: JSON.stringify(news.changes),
    })
    const topics = new Set<string>()
    for (const patch of patches) {
      batch.rows.note(live.id, patch, live.tree)
      const { id, before, after } = patch
      if (id === null) dressed.add(live)
      else topics.add(id)
      if (before?.removed !== after?.removed || before?.parent !== after?.parent) recount.add(live)
    }
    if (topics.size > 0) batch.touched.push({ t: live.id, n: news.number, o: [...topics] })
  }
  for (const [live, { was, last }] of span)
    batch.trees.push({
      id: live.id,
      was,
      v: live.version,
      by: last.actor.kind === 'guest' ? null : (last.actor.behalf ?? last.actor.id),
      title: live.tree.topics.get(live.tree.centre)!.title,
      fields: dressed.has(live) ? JSON.stringify(live.tree.fields) : null,
      n: recount.has(live) ? countTopics(live.tree) : -1,
    })
  // Locks are taken in the order of ids, so that two processes never wait for each other.
  batch.trees.sort((a, b) => (a.id < b.id ? -1 : 1))
  return batch
}

/**
 * Commits what was staged. False when a tree has moved on or a right is gone: nothing is stored then.
 * Throws what the database throws, after its rollback.
 */
export async function commit(staged: readonly Staged[], at: Date): Promise<boolean> {
  const { rights, guests, trees, edits, touched, rows } = gather(staged)
  const asked =
    guests.length === 0
      ? sql``
      : sql`select count(distinct x.t, x.p) into asked from json_table(${JSON.stringify(guests)}, '$[*]' columns (
          t ${KEY} path '$.t', p ${KEY} path '$.p')) x
          straight_join meeting_guests g on g.tree_id = x.t and g.person = x.p;`
  const [results] = (await database().execute(sql`begin not atomic
    declare standing, entitled, asked int default 0;
    declare exit handler for sqlexception begin rollback; resignal; end;
    start transaction;
    select count(*) into standing from (select t.id from json_table(${JSON.stringify(trees)}, '$[*]' columns (
      id ${KEY} path '$.id', was int path '$.was')) x
      straight_join trees t on t.id = x.id and t.version = x.was and t.trashed_at is null for update) held;
    select count(*) into entitled from json_table(${JSON.stringify(rights)}, '$[*]' columns (
      t ${KEY} path '$.t', u ${KEY} path '$.u', r varchar(20) path '$.r')) x
      straight_join members m on m.tree_id = x.t and m.user_id = x.u and m.role = x.r lock in share mode;
    ${asked}
    if standing <> ${trees.length} or entitled <> ${rights.length} or asked <> ${guests.length} then
      rollback;
      select 0 as stored;
    else
      insert into edits (tree_id, number, edit_id, user_id, actor, behalf, source, at, format, changes)
        select t, n, e, u, k, b, s, ${at}, ${EDIT_FORMAT}, c from json_table(${JSON.stringify(edits)}, '$[*]' columns (
          t ${KEY} path '$.t', n int path '$.n', e varchar(40) path '$.e', u ${KEY} path '$.u',
          k varchar(20) path '$.k', b varchar(40) path '$.b', s longtext path '$.s', c longtext path '$.c')) x;
      insert into edit_topics (tree_id, topic_id, number)
        select t, o, n from json_table(${JSON.stringify(touched)}, '$[*]' columns (
          t ${KEY} path '$.t', n int path '$.n', nested path '$.o[*]' columns (o varchar(40) path '$'))) x where o is not null;
      ${sql.join(rows.statements(), sql` `)}
      update json_table(${JSON.stringify(trees)}, '$[*]' columns (
        id ${KEY} path '$.id', v int path '$.v', \`by\` varchar(40) path '$.by', title text path '$.title',
        fields longtext path '$.fields', n int path '$.n')) x straight_join trees t on t.id = x.id
        set t.version = x.v, t.changed_at = ${at}, t.changed_by = x.by, t.title = x.title,
          t.fields = coalesce(x.fields, t.fields), t.topic_count = if(x.n < 0, t.topic_count, x.n);
      commit;
      select 1 as stored;
    end if;
  end`)) as unknown as [unknown]
  return JSON.stringify(results).includes('"stored":1')
}
