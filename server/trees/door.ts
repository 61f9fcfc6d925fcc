import { and, inArray, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { allows, type NewsEdit, type Role } from '#core/contract'
import { applyChanges, countTopics, type Edit, type Patch, Refused } from '#core/tree'
import { Fault } from '../access/fault'
import { database, databaseErrorCode, isPassing, type Transaction } from '../database/connect'
import { edits, trees } from '../database/schema'
import { type Held, holdTree, letGo, note, snapshotWhenDue } from './held'
import { spread } from './news'
import { chunks, writeRows } from './rows'

/*
 * The one way in for edits. Edits that wait at the same time, of whatever trees, are made in one transaction: the rows of
 * their trees are locked in order of id, each edit is checked against the tree at its number and given the next one, the log
 * and the current rows are written, and only after the commit are the answers given and the news told. An edit that can't be
 * made is refused alone.
 */

/** What became of an edit. `again`: it was in already, so nobody is told of it now. */
export interface Outcome { readonly news: NewsEdit, readonly again: boolean }

interface Ask {
  readonly treeId: string
  readonly userId: string
  readonly edit: Edit
  readonly settle: (outcome: Outcome | Error) => void
}

interface Made { readonly ask: Ask, readonly news: NewsEdit, readonly patches: readonly Patch[], readonly item: Held }

const queue: Ask[] = []
let running: Promise<void> | undefined
let closed = false

/** Edits in one transaction at most, and changes; more would keep the first ones waiting. */
const MOST_EDITS = 250
const MOST_CHANGES = 30_000
const TRIES = 6

/** Makes an edit for a person. Resolves when it's committed; rejects with a `Fault` that says why not. */
export function submit(treeId: string, userId: string, edit: Edit): Promise<Outcome> {
  return new Promise((resolve, reject) => {
    if (closed) {
      reject(new Fault(503, 'stopping', 'Sun Porch is stopping. Your edit waits and will be sent again.'))
      return
    }
    queue.push({ treeId, userId, edit, settle: outcome => outcome instanceof Error ? reject(outcome) : resolve(outcome) })
    running ??= work().finally(() => { running = undefined })
  })
}

/** Lets no more edits in and waits for those in hand. */
export async function closeDoor(): Promise<void> {
  closed = true
  await running
}

async function work(): Promise<void> {
  while (queue.length > 0) {
    let changes = 0
    let count = 0
    while (count < queue.length && count < MOST_EDITS && (count === 0 || changes + queue[count]!.edit.changes.length <= MOST_CHANGES)) {
      changes += queue[count]!.edit.changes.length
      count++
    }
    await batch(queue.splice(0, count))
  }
}

async function batch(asks: readonly Ask[]): Promise<void> {
  for (let attempt = 1; ; attempt++) {
    const answers = new Map<Ask, Outcome | Error>()
    const made: Made[] = []
    try {
      // A first attempt knows recent edits only; after a clash the log itself is asked which ids are in.
      await database().transaction(tx => make(tx, asks, answers, made, attempt > 1))
    }
    catch (error) {
      // What was applied to the copies in memory wasn't stored: they are read again.
      for (const treeId of new Set(asks.map(ask => ask.treeId))) letGo(treeId)
      const again = isPassing(error) || databaseErrorCode(error) === 'ER_DUP_ENTRY'
      if (again && attempt < TRIES) continue
      if (asks.length > 1) {
        // One of them may be what the database chokes on; alone, each gets its own answer.
        for (const ask of asks) await batch([ask])
        return
      }
      console.error('An edit could not be stored:', databaseErrorCode(error) || (error as Error).message)
      asks[0]!.settle(new Fault(503, 'unavailable', 'The database doesn’t answer. Your edit is kept here and will be sent again.'))
      return
    }
    for (const ask of asks) ask.settle(answers.get(ask)!)
    const told = new Map<string, NewsEdit[]>()
    for (const { ask, news } of made) told.set(ask.treeId, [...(told.get(ask.treeId) ?? []), news])
    for (const [treeId, news] of told) spread(treeId, news)
    for (const [treeId, item] of new Map(made.map(({ ask, item }) => [ask.treeId, item])))
      snapshotWhenDue(treeId, item).catch(error => console.error('A snapshot could not be stored:', databaseErrorCode(error)))
    return
  }
}

interface LockedRow { id: string, version: number, trashed_at: Date | null, user_id: string | null, role: Role | null }

async function make(tx: Transaction, asks: readonly Ask[], answers: Map<Ask, Outcome | Error>, made: Made[], askLog: boolean): Promise<void> {
  const treeIds = [...new Set(asks.map(ask => ask.treeId))].sort()
  const userIds = [...new Set(asks.map(ask => ask.userId))]
  const [locked] = await tx.execute(sql`select t.id, t.version, t.trashed_at, m.user_id, m.role from trees t
    left join members m on m.tree_id = t.id and m.user_id in ${userIds} where t.id in ${treeIds} order by t.id for update`) as unknown as [LockedRow[]]
  const known = askLog ? await knownEdits(tx, asks) : new Map<string, NewsEdit>()
  const at = new Date()
  const held = new Map<string, Held>()
  for (const ask of asks) {
    const rows = locked.filter(row => row.id === ask.treeId)
    const role = rows.find(row => row.user_id === ask.userId)?.role ?? null
    const refusal = refuse(rows[0], role)
    if (refusal) {
      answers.set(ask, refusal)
      continue
    }
    const item = held.get(ask.treeId) ?? await holdTree(tx, ask.treeId, rows[0]!.version)
    if (!item) throw new Error(`tree ${ask.treeId} has no snapshot`)
    held.set(ask.treeId, item)
    const numbered = item.recent.get(ask.edit.id)
    const old = known.get(`${ask.treeId}/${ask.edit.id}`)
    if (old || numbered !== undefined) {
      answers.set(ask, { news: old ?? { ...ask.edit, number: numbered!, user: ask.userId, at: at.toISOString() }, again: true })
      continue
    }
    try {
      const patches = applyChanges(item.tree, ask.edit.changes)
      const news: NewsEdit = { ...ask.edit, number: item.version + 1, user: ask.userId, at: at.toISOString() }
      note(item, ask.edit.id, news.number, ask.edit.changes.length)
      made.push({ ask, news, patches, item })
      answers.set(ask, { news, again: false })
    }
    catch (error) {
      if (!(error instanceof Refused)) throw error
      answers.set(ask, new Fault(409, error.code, error.message))
    }
  }
  if (made.length === 0) return
  for (const part of chunks(made, 100))
    await tx.insert(edits).values(part.map(({ ask, news }) => ({ treeId: ask.treeId, number: news.number, editId: news.id, userId: ask.userId, at, changes: news.changes })))
  await writeRows(tx, made.map(({ ask, item, patches }) => ({ treeId: ask.treeId, tree: item.tree, patches })))
  await writeTrees(tx, made, at)
}

function refuse(row: LockedRow | undefined, role: Role | null): Fault | null {
  if (!row || !role) return new Fault(404, 'no-tree', 'There is no such tree, or you have no role in it any more.')
  if (row.trashed_at) return new Fault(409, 'trashed', 'This tree is in the trash. Bring it back to edit it.')
  if (!allows(role, 'editor')) return new Fault(403, 'role', `As ${role} you can’t change this tree.`)
  return null
}

async function knownEdits(tx: Transaction, asks: readonly Ask[]): Promise<Map<string, NewsEdit>> {
  const rows = await tx.select().from(edits).where(and(
    inArray(edits.treeId, [...new Set(asks.map(ask => ask.treeId))]), inArray(edits.editId, asks.map(ask => ask.edit.id))))
  return new Map(rows.map(row => [`${row.treeId}/${row.editId}`, { id: row.editId, number: row.number, changes: row.changes, user: row.userId, at: row.at.toISOString() }]))
}

/** The tree rows of all trees that changed, in one statement. */
async function writeTrees(tx: Transaction, made: readonly Made[], at: Date): Promise<void> {
  const last = new Map(made.map(item => [item.ask.treeId, item]))
  const counted = new Set(made.filter(({ patches }) => patches.some(({ before, after }) => before?.removed !== after?.removed || before?.parent !== after?.parent)).map(({ ask }) => ask.treeId))
  const rows = [...last].map(([id, { ask, item }]) => ({
    id, centre: item.tree.centre, title: item.tree.topics.get(item.tree.centre)!.title, fields: item.tree.fields, version: item.version,
    topicCount: counted.has(id) ? countTopics(item.tree) : -1, createdAt: at, changedAt: at, changedBy: ask.userId,
  }))
  await tx.insert(trees).values(rows).onDuplicateKeyUpdate({
    set: {
      title: sql`values(title)`, fields: sql`values(fields)`, version: sql`values(version)`, changedAt: sql`values(changed_at)`, changedBy: sql`values(changed_by)`,
      topicCount: sql`if(values(topic_count) < 0, topic_count, values(topic_count))`,
    },
  })
}

/** An edit id for edits that the server itself makes for a person. */
export const newEditId = (): string => nanoid(16)
