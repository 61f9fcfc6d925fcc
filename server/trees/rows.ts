import { sql } from 'drizzle-orm'
import {
  type Content,
  FIELD_ENTRIES,
  isBlank,
  type Patch,
  type Plain,
  SET_ENTRIES,
  type Topic,
  type Tree,
} from '#core/tree'
import type { Transaction } from '../database/connect'

/*
 * Topics as rows. What queries ask for has a column of its own, as the table of fields says; the rest travels together
 * as JSON. Rows go to the database as JSON too (JSON_TABLE, ISO/IEC 9075-2), since building statements with thousands
 * of parameters costs more than the database's work; each row as a list, since names are looked for in every row anew.
 * A topic that was there already gets only the parts that changed, so that a fold doesn't write a note again.
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
  for (const key of REST) if (!isBlank(key, topic[key])) rest[key] = topic[key]
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

/** A JSON list of lists as a table: `from` is the text of what holds it, and columns are named in their order. */
export function listAsTable(from: string, columns: readonly (readonly [name: string, type: string])[]): string {
  const shape = columns.map(([name, type], i) => `\`${name}\` ${type} path '$[${i}]'`).join(', ')
  return `json_table(${from}, '$[*]' columns (${shape})) x`
}

/** Rows of topics as JSON, for a statement to read. */
const rowsOf = (columns: readonly Column[], placed: readonly Placed[]): string =>
  JSON.stringify(placed.map(({ treeId, topic }) => [treeId, topic.id, ...columns.map(({ of }) => of(topic))]))

const table = (columns: readonly Column[], from: string): string =>
  listAsTable(
    from,
    [...WHO, ...columns].map(({ name, type }) => [name, type]),
  )

const ALL = PARTS.flatMap(part => part.columns)

/** What stands in for the columns that a row can't be without, where only other parts of it are written. */
const REQUIRED: Readonly<Record<string, string>> = {
  order_key: "''",
  removed: '0',
  title: "''",
  rest: "'{}'",
  links: "'[]'",
}

/**
 * Writes topics: whole, whether they were there or not, or some columns of those that are there. Those too as an insert that
 * finds its row: an update that is joined to a list gathers what it will change in a table of its own first, and takes four
 * times as long.
 */
function writeRows(columns: readonly Column[], from: string): string {
  const written = new Set(columns.map(({ name }) => name))
  const others = Object.entries(REQUIRED).filter(([name]) => !written.has(name))
  const names = [...WHO, ...columns].map(({ name }) => name).concat(others.map(([name]) => name))
  const reads = [...WHO, ...columns].map(({ read }) => read).concat(others.map(([, blank]) => blank))
  const over = columns.map(({ name }) => `${name} = values(${name})`).join(', ')
  return `insert into topics (${names.join(', ')}) select ${reads.join(', ')} from ${table(columns, from)}
    on duplicate key update ${over}`
}

const MEMBER_TABLES = {
  people: { table: 'topic_people', column: 'user_id' },
  markers: { table: 'topic_markers', column: 'marker' },
} as const

/** Takes out all members of the given topics' sets. */
const noMembers = (set: keyof typeof MEMBER_TABLES, from: string): string =>
  `delete m from ${table([], from)} straight_join ${MEMBER_TABLES[set].table} m on m.tree_id = x.tree_id and m.topic_id = x.id`

/** Puts members in. */
const newMembers = (set: keyof typeof MEMBER_TABLES, from: string): string =>
  `insert into ${MEMBER_TABLES[set].table} (tree_id, topic_id, ${MEMBER_TABLES[set].column}, place)
    select tree_id, id, m, n from ${listAsTable(from, [
      ['tree_id', ID],
      ['id', ID],
      ['m', ID],
      ['n', 'int'],
    ])}`

function membersOf(set: keyof typeof MEMBER_TABLES, placed: readonly Placed[]): string {
  return JSON.stringify(placed.flatMap(({ treeId, topic }) => topic[set].map((m, n) => [treeId, topic.id, m, n])))
}

/** The statements that write a batch's rows, each with the name of the JSON that it reads; one that is null isn't run. */
export const ROW_STATEMENTS: readonly { readonly from: string; readonly text: string }[] = [
  { from: 'born', text: writeRows(ALL, 'born') },
  ...PARTS.map((part, i) => ({ from: `part${i}`, text: writeRows(part.columns, `part${i}`) })),
  ...SETS_AS_ROWS.flatMap(set => [
    { from: `of_${set}`, text: noMembers(set, `of_${set}`) },
    { from: `new_${set}`, text: newMembers(set, `new_${set}`) },
  ]),
]

/** What a batch of edits changed, topic by topic. */
export class ChangedRows {
  private readonly born = new Map<string, Placed>()
  private readonly parts = PARTS.map(() => new Map<string, Placed>())
  private readonly members = new Map(SETS_AS_ROWS.map(set => [set, new Map<string, Placed>()]))

  /** Notes what a patch changed of a topic that the tree has now. */
  note(treeId: string, { id, before, after }: Patch, tree: Tree): void {
    if (id === null || before === after) return
    const key = `${treeId}/${id}`
    const placed = { treeId, topic: tree.topics.get(id)! }
    if (!before || this.born.has(key)) this.born.set(key, placed)
    else
      PARTS.forEach(({ keys }, i) => {
        const part = this.parts[i]!
        if (part.has(key) || keys.some(name => before[name] !== after![name])) part.set(key, placed)
      })
    for (const [set, changed] of this.members)
      if (before ? before[set] !== after![set] : after![set].length > 0) changed.set(key, placed)
  }

  /** What each of `ROW_STATEMENTS` reads. */
  json(): (string | null)[] {
    const of = (changed: ReadonlyMap<string, Placed>, write: (placed: readonly Placed[]) => string): string | null =>
      changed.size > 0 ? write([...changed.values()]) : null
    return [
      of(this.born, placed => rowsOf(ALL, placed)),
      ...this.parts.map((changed, i) => of(changed, placed => rowsOf(PARTS[i]!.columns, placed))),
      ...SETS_AS_ROWS.flatMap(set => {
        const changed = this.members.get(set)!
        return [of(changed, placed => rowsOf([], placed)), of(changed, placed => membersOf(set, placed))]
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
  const run = async (statement: (from: string) => string, json: string): Promise<void> => {
    const [before, after] = statement('\u0000').split('\u0000') as [string, string]
    await tx.execute(sql`${sql.raw(before)}${json}${sql.raw(after)}`)
  }
  for (const part of chunks(placed)) await run(from => writeRows(ALL, from), rowsOf(ALL, part))
  for (const set of SETS_AS_ROWS)
    for (const part of chunks(placed.filter(({ topic }) => topic[set].length > 0)))
      await run(from => newMembers(set, from), membersOf(set, part))
}
