import { createHash } from 'node:crypto'
import { accountOf, type Role } from '#core/contract'
import { countTopics, EDIT_FORMAT } from '#core/tree'
import { afterMigrating, connections } from '../database/connect'
import type { LiveTree, Staged } from './live-tree'
import { ChangedRows, ID, listAsTable, ROW_STATEMENTS } from './rows'

/*
 * Stores a batch of edits in one transaction and one trip to the database: a procedure that takes the rows' locks, checks that each tree stands where the edits were made from and that everybody has
 * the role that they were allowed for, and only then writes the log, the topics as they are now, and the trees.
 */

/** What is read of a batch besides the rows of topics: columns in the order in which they're sent. */
const COLUMNS = {
  trees: [
    ['id', ID],
    ['was', 'int'],
    ['v', 'int'],
    ['by', 'varchar(40)'],
    ['title', 'text'],
    ['fields', 'longtext'],
    ['n', 'int'],
  ],
  rights: [
    ['t', ID],
    ['u', ID],
    ['r', 'varchar(20)'],
  ],
  guests: [
    ['t', ID],
    ['p', ID],
  ],
  links: [
    ['t', ID],
    ['l', ID],
  ],
  edits: [
    ['t', ID],
    ['n', 'int'],
    ['e', 'varchar(40)'],
    ['u', ID],
    ['k', 'varchar(20)'],
    ['b', 'varchar(40)'],
    ['s', 'longtext'],
    ['c', 'longtext'],
  ],
} as const

interface Batch {
  readonly rights: [tree: string, account: string, role: Role][]
  readonly guests: [tree: string, person: string][]
  readonly links: [tree: string, link: string][]
  readonly trees: [
    id: string,
    was: number,
    version: number,
    by: string | null,
    title: string,
    /** Null where the tree's own fields are as they were. */
    fields: string | null,
    /** −1 where there are as many topics as before. */
    topics: number,
  ][]
  readonly edits: [
    tree: string,
    number: number,
    id: string,
    actor: string,
    kind: string,
    behalf: string | null,
    source: string | null,
    changes: string,
  ][]
  readonly touched: [tree: string, number: number, topics: string[]][]
  readonly rows: ChangedRows
}

function gather(staged: readonly Staged[]): Batch {
  const batch: Batch = { rights: [], guests: [], links: [], trees: [], edits: [], touched: [], rows: new ChangedRows() }
  const seen = new Set<string>()
  const recount = new Set<LiveTree>()
  const dressed = new Set<LiveTree>()
  const span = new Map<LiveTree, { was: number; last: Staged }>()
  for (const one of staged) {
    const { live, principal, actor, role, news, patches } = one
    // All who came by one link have the same right.
    const right = `${live.id}/${actor.kind}/${principal.kind === 'link' ? principal.link : actor.id}`
    if (!seen.has(right)) {
      seen.add(right)
      if (principal.kind === 'guest') batch.guests.push([live.id, principal.id])
      else if (principal.kind === 'link') batch.links.push([live.id, principal.link])
      else if (principal.kind !== 'app') batch.rights.push([live.id, accountOf(principal)!, role!])
    }
    span.set(live, { was: span.get(live)?.was ?? news.number - 1, last: one })
    batch.edits.push([
      live.id,
      news.number,
      news.id,
      actor.id,
      actor.kind,
      actor.behalf,
      news.source ? JSON.stringify(news.source) : null,
      JSON.stringify(news.changes),
    ])
    const topics = new Set<string>()
    for (const patch of patches) {
      batch.rows.note(live.id, patch, live.tree)
      const { id, before, after } = patch
      if (id === null) dressed.add(live)
      else topics.add(id)
      if (before?.removed !== after?.removed || before?.parent !== after?.parent) recount.add(live)
    }
    if (topics.size > 0) batch.touched.push([live.id, news.number, [...topics]])
  }
  for (const [live, { was, last }] of span)
    batch.trees.push([
      live.id,
      was,
      live.version,
      accountOf(last.principal) === null ? null : (last.actor.behalf ?? last.actor.id),
      live.tree.topics.get(live.tree.centre)!.title,
      dressed.has(live) ? JSON.stringify(live.tree.fields) : null,
      recount.has(live) ? countTopics(live.tree) : -1,
    ])
  // Locks are taken in the order of ids, so that two processes never wait for each other.
  batch.trees.sort(([a], [b]) => (a < b ? -1 : 1))
  return batch
}

const list = (from: keyof typeof COLUMNS): string => listAsTable(from, COLUMNS[from])

const LISTS = ['trees', 'rights', 'guests', 'links', 'edits', 'touched', ...ROW_STATEMENTS.map(({ from }) => from)]

/*
 * One procedure, so that the database reads its text once and not with every batch. Its name tells what it holds: two versions
 * of the app that run side by side have each their own.
 */
const BODY = `(${LISTS.map(name => `${name} longtext character set utf8mb4 collate utf8mb4_bin`).join(', ')},
    trees_count int, rights_count int, guests_count int, links_count int, moment datetime(3))
  begin
    declare standing, entitled, asked, open int default 0;
    declare exit handler for sqlexception begin rollback; resignal; end;
    start transaction;
    select count(*) into standing from ${list('trees')}
      straight_join trees t on t.id = x.id and t.version = x.was and t.trashed_at is null for update;
    if rights_count > 0 then
      select count(*) into entitled from ${list('rights')}
        straight_join members m on m.tree_id = x.t and m.user_id = x.u and m.role = x.r lock in share mode;
    end if;
    if guests_count > 0 then
      select count(distinct x.t, x.p) into asked from ${list('guests')}
        straight_join meeting_guests g on g.tree_id = x.t and g.person = x.p;
    end if;
    if links_count > 0 then
      select count(*) into open from ${list('links')}
        straight_join guest_links g on g.tree_id = x.t and g.id = x.l and g.may = 'edit' and (g.until is null or g.until > moment)
        lock in share mode;
    end if;
    if standing <> trees_count or entitled <> rights_count or asked <> guests_count or open <> links_count then
      rollback;
      select 0 as stored;
    else
      insert into edits (tree_id, number, edit_id, user_id, actor, behalf, source, at, format, changes)
        select t, n, e, u, k, b, s, moment, ${EDIT_FORMAT}, c from ${list('edits')};
      if touched is not null then
        insert into edit_topics (tree_id, topic_id, number)
          select t, o, n from json_table(touched, '$[*]' columns (
            t ${ID} path '$[0]', n int path '$[1]', nested path '$[2][*]' columns (o ${ID} path '$'))) x where o is not null;
      end if;
      ${ROW_STATEMENTS.map(({ from, text }) => `if ${from} is not null then ${text}; end if;`).join('\n      ')}
      -- An insert that finds its row, as with topics: a joined update takes four times as long.
      insert into trees (id, centre, title, fields, version, topic_count, created_at, changed_at, changed_by)
        select x.id, '', x.title, coalesce(x.fields, '{}'), x.v, x.n, moment, moment, x.\`by\`
          from ${list('trees')}
        on duplicate key update version = x.v, changed_at = moment, changed_by = x.\`by\`, title = x.title,
          fields = coalesce(x.fields, trees.fields), topic_count = if(x.n < 0, trees.topic_count, x.n);
      commit;
      select 1 as stored;
    end if;
  end`
const NAME = `store_edits_${createHash('sha256').update(BODY).digest('hex').slice(0, 12)}`
const CALL = `call ${NAME}(${[...LISTS, 'trees', 'rights', 'guests', 'links', 'at'].map(() => '?').join(', ')})`

// The account needs the right CREATE ROUTINE.
afterMigrating(async () => {
  await connections().query(`create procedure if not exists ${NAME} ${BODY}`)
})

/**
 * Commits what was staged. False when a tree has moved on or a right is gone: nothing is stored then.
 * Throws what the database throws, after its rollback.
 */
export async function commit(staged: readonly Staged[], at: Date): Promise<boolean> {
  const { rights, guests, links, trees, edits, touched, rows } = gather(staged)
  const text = (some: readonly unknown[]): string | null => (some.length > 0 ? JSON.stringify(some) : null)
  const [results] = await connections().execute(CALL, [
    text(trees),
    text(rights),
    text(guests),
    text(links),
    text(edits),
    text(touched),
    ...rows.json(),
    trees.length,
    rights.length,
    guests.length,
    links.length,
    at.toISOString().slice(0, -1).replace('T', ' '),
  ])
  return (results as [[{ stored: number }]])[0][0].stored === 1
}
