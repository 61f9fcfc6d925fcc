import { type SQL, sql } from 'drizzle-orm'
import {
  BLANK,
  type Content,
  FIELD_ENTRIES,
  isBlank,
  type Patch,
  type Plain,
  SET_ENTRIES,
  type SetName,
  type Topic,
  type Tree,
} from '#core/tree'
import type { Transaction } from '../database/connect'

/*
 * Topics as rows. What queries ask for has a column of its own, as the table of fields says; the rest travels together
 * as JSON. Rows go to the database as JSON too (JSON_TABLE, ISO/IEC 9075-2), since building statements with thousands
 * of parameters costs more than the database's work. A topic that was there already gets only the parts that changed,
 * so that a fold doesn't write a note again.
 */

const TYPES: Readonly<Record<Plain, string>> = {
  text: 'text',
  day: 'varchar(10)',
  number: 'double',
  whole: 'int',
  truth: 'tinyint',
}

/** A column: its name, its type in JSON_TABLE, how its value is read from there, and what a topic says in it. */
interface Column {
  readonly name: string
  readonly type: string
  readonly read: string
  readonly of: (topic: Topic) => unknown
}
/**
 * The type of ids in JSON_TABLE: as the columns have them. Any other character set keeps MariaDB from using their index, and
 * it reads every row there is.
 */
export const ID = 'varchar(40) character set ascii collate ascii_bin'
const ID_SQL = sql.raw(ID)
const column = (name: string, type: string, of: Column['of'], read = `x.${name}`): Column => ({ name, type, read, of })

const FIELDS_IN_COLUMNS = FIELD_ENTRIES.filter(([, spec]) => spec.column)
const SETS_AS_JSON = SET_ENTRIES.filter(([, spec]) => spec.column === 'json').map(([name]) => name)
/** The sets whose members are rows of their own. */
export const SETS_AS_ROWS = SET_ENTRIES.filter(([, spec]) => spec.column === 'rows').map(
  ([name]) => name as 'people' | 'markers',
)
/** What no query asks for. */
const REST: readonly (keyof Content)[] = [
  ...FIELD_ENTRIES.flatMap(([name, spec]) => (spec.column ? [] : [name])),
  ...SET_ENTRIES.flatMap(([name, spec]) => (spec.column ? [] : [name])),
]

function restOf(topic: Topic): string {
  const rest: Record<string, unknown> = {}
  for (const key of REST) if (topic[key] !== BLANK[key] && !isBlank(key, topic[key])) rest[key] = topic[key]
  return JSON.stringify(rest)
}

/** The parts of a row that are written together, and the keys of a topic that each holds. */
const PARTS: readonly { readonly keys: readonly (keyof Topic)[]; readonly columns: readonly Column[] }[] = [
  {
    keys: ['parent', 'order', 'removed', ...FIELDS_IN_COLUMNS.map(([name]) => name)],
    columns: [
      column('parent', 'varchar(40)', topic => topic.parent),
      column('order_key', 'varchar(400)', topic => topic.order),
      column('removed', 'tinyint', topic => (topic.removed ? 1 : 0)),
      ...FIELDS_IN_COLUMNS.map(([name, spec]) => column(name, TYPES[spec.column!], topic => topic[name])),
    ],
  },
  { keys: REST, columns: [column('rest', 'longtext', restOf)] },
  ...SETS_AS_JSON.map(name => ({
    keys: [name],
    columns: [column(name, 'longtext', topic => JSON.stringify(topic[name]))],
  })),
  { keys: ['note'], columns: [column('note', 'longtext', topic => topic.note, 'from_base64(x.note)')] },
]

/** One topic of one tree. */
export interface Placed {
  readonly treeId: string
  readonly topic: Topic
}

const WHO: readonly Column[] = [column('tree_id', ID, () => null), column('id', ID, topic => topic.id)]

/** Rows as a table that a statement can read, and their columns in it. */
function table(columns: readonly Column[], placed: readonly Placed[]): SQL {
  const shape = [...WHO, ...columns].map(({ name, type }) => `${name} ${type} path '$.${name}'`).join(', ')
  const rows = placed.map(({ treeId, topic }) => {
    const row: Record<string, unknown> = { tree_id: treeId, id: topic.id }
    for (const { name, of } of columns) row[name] = of(topic)
    return row
  })
  return sql`json_table(${JSON.stringify(rows)}, '$[*]' columns (${sql.raw(shape)})) x`
}

const ALL = PARTS.flatMap(part => part.columns)
const NAMES = [...WHO, ...ALL].map(({ name }) => name).join(', ')
const READS = [...WHO, ...ALL].map(({ read }) => read).join(', ')
const OVER = ALL.map(({ name }) => `${name} = values(${name})`).join(', ')

/** Writes topics whole, whether they were there or not. */
function wholeRows(placed: readonly Placed[]): SQL {
  return sql`insert into topics (${sql.raw(NAMES)}) select ${sql.raw(READS)} from ${table(ALL, placed)} on duplicate key update ${sql.raw(OVER)};`
}

/** Writes one part of topics that are there. */
function partOfRows(part: number, placed: readonly Placed[]): SQL {
  const { columns } = PARTS[part]!
  const set = columns.map(({ name, read }) => `t.${name} = ${read}`).join(', ')
  return sql`update ${table(columns, placed)} straight_join topics t on t.tree_id = x.tree_id and t.id = x.id set ${sql.raw(set)};`
}

const MEMBER_TABLES = {
  people: { table: sql.raw('topic_people'), column: sql.raw('user_id') },
  markers: { table: sql.raw('topic_markers'), column: sql.raw('marker') },
} as const

/** Puts the members of the given topics' sets where the old ones were. */
function memberRows(set: keyof typeof MEMBER_TABLES, changed: readonly Placed[]): SQL {
  const { table, column } = MEMBER_TABLES[set]
  const keys = changed.map(({ treeId, topic }) => ({ t: treeId, id: topic.id }))
  const members = changed.flatMap(({ treeId, topic }) =>
    topic[set].map((member, place) => ({ t: treeId, id: topic.id, m: member, n: place })),
  )
  return sql`delete m from json_table(${JSON.stringify(keys)}, '$[*]' columns (
      t ${ID_SQL} path '$.t', id ${ID_SQL} path '$.id')) x straight_join ${table} m on m.tree_id = x.t and m.topic_id = x.id;
    insert into ${table} (tree_id, topic_id, ${column}, place)
      select t, id, m, n from json_table(${JSON.stringify(members)}, '$[*]' columns (
        t varchar(40) path '$.t', id varchar(40) path '$.id', m varchar(40) path '$.m', n int path '$.n')) x;`
}

/** What a batch of edits changed, topic by topic. */
export class ChangedRows {
  private readonly born = new Map<string, Placed>()
  private readonly parts = PARTS.map(() => new Map<string, Placed>())
  private readonly members = new Map(SETS_AS_ROWS.map(set => [set as SetName, new Map<string, Placed>()]))

  /** Notes what a patch changed of a topic that the tree has now. */
  note(treeId: string, { id, before, after }: Patch, tree: Tree): void {
    if (id === null || before === after) return
    const key = `${treeId}/${id}`
    const placed = { treeId, topic: tree.topics.get(id)! }
    if (!before) this.born.set(key, placed)
    else if (this.born.has(key)) this.born.set(key, placed)
    else
      PARTS.forEach(({ keys }, i) => {
        const part = this.parts[i]!
        if (part.has(key) || keys.some(name => before[name] !== after![name])) part.set(key, placed)
      })
    for (const [set, changed] of this.members)
      if (before ? before[set] !== after![set] : after![set].length > 0) changed.set(key, placed)
  }

  /** The statements that write it. */
  statements(): SQL[] {
    const now = (changed: ReadonlyMap<string, Placed>): Placed[] => [...changed.values()]
    return [
      ...(this.born.size > 0 ? [wholeRows(now(this.born))] : []),
      ...this.parts.flatMap((changed, part) => (changed.size > 0 ? [partOfRows(part, now(changed))] : [])),
      ...SETS_AS_ROWS.flatMap(set => {
        const changed = this.members.get(set)!
        return changed.size > 0 ? [memberRows(set, now(changed))] : []
      }),
    ]
  }
}

/** Rows in one statement; keeps each well under MariaDB's packet limit. */
const CHUNK = 2000

function* chunks<T>(list: readonly T[]): Generator<readonly T[]> {
  for (let i = 0; i < list.length; i += CHUNK) yield list.slice(i, i + CHUNK)
}

/** Writes every topic of a new tree. */
export async function writeWholeTree(tx: Transaction, treeId: string, tree: Tree): Promise<void> {
  const placed = Array.from(tree.topics.values(), topic => ({ treeId, topic }))
  for (const part of chunks(placed)) await tx.execute(wholeRows(part))
  for (const set of SETS_AS_ROWS)
    // Two statements in one text need a compound around them.
    for (const part of chunks(placed.filter(({ topic }) => topic[set].length > 0)))
      await tx.execute(sql`begin not atomic ${memberRows(set, part)} end`)
}
