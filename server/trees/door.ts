import { and, inArray, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { allows, type NewsEdit, type Role } from '#core/contract'
import { applyChanges, countTopics, type Edit, Refused, unapply } from '#core/tree'
import { Fault } from '../access/fault'
import { database, databaseErrorCode, isPassing } from '../database/connect'
import { edits } from '../database/schema'
import { commit, type Stored } from './commit'
import { type Held, heldNow, holdTree, letGo, note, snapshotWhenDue } from './held'
import { spread } from './news'

/*
 * The one way in for edits. Edits that wait at the same time, of whatever trees, are made together: in memory first,
 * each checked against its tree at its number and given the next one, then stored in one transaction that checks again,
 * under the rows' locks, that every tree stood where it was thought to stand and every person may edit. Only after the
 * commit are the answers given and the news told. When the check fails, memory is put back, the facts are read, and
 * what can be made is made.
 */

/** What became of an edit. `again`: it was in already, so nobody is told of it now. */
export interface Outcome {
  readonly news: NewsEdit
  readonly again: boolean
}

interface Ask {
  readonly treeId: string
  readonly userId: string
  readonly edit: Edit
  readonly settle: (outcome: Outcome | Error) => void
}

interface Made extends Stored {
  readonly ask: Ask
}

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
    queue.push({
      treeId,
      userId,
      edit,
      settle: outcome => (outcome instanceof Error ? reject(outcome) : resolve(outcome)),
    })
    running ??= work().finally(() => {
      running = undefined
    })
  })
}

/** Lets no more edits in and waits for those in hand. */
export async function closeDoor(): Promise<void> {
  closed = true
  await running
}

async function work(): Promise<void> {
  // Whatever else arrived in this turn of the event loop comes along.
  await Promise.resolve()
  while (queue.length > 0) {
    let changes = 0
    let count = 0
    while (
      count < queue.length &&
      count < MOST_EDITS &&
      (count === 0 || changes + queue[count]!.edit.changes.length <= MOST_CHANGES)
    ) {
      changes += queue[count]!.edit.changes.length
      count++
    }
    await batch(queue.splice(0, count))
  }
}

async function batch(asks: readonly Ask[]): Promise<void> {
  let left = asks
  for (let attempt = 1; left.length > 0; attempt++) {
    const made: Made[] = []
    let release = (): void => {}
    const inFlight = new Promise<void>(done => {
      release = done
    })
    try {
      if (attempt > 1) left = await sift(left)
      const at = new Date()
      const versions = await versionsOf(left)
      for (const [treeId, version] of versions) if (!heldNow(treeId)) await holdTree(database(), treeId, version)
      const settled = make(left, made, at, inFlight)
      if (made.length > 0 && !(await commit(made, at, item => countTopics(item.tree)))) throw new Stale()
      for (const { item } of made) item.inFlight = null
      for (const [ask, outcome] of settled) ask.settle(outcome)
      tell(made)
      return
    } catch (error) {
      putBack(made)
      const again = error instanceof Stale || isPassing(error) || databaseErrorCode(error) === 'ER_DUP_ENTRY'
      if (again && attempt < TRIES) continue
      if (left.length > 1) {
        // One of them may be what the database chokes on; alone, each gets its own answer.
        for (const ask of left) await batch([ask])
        return
      }
      console.error('An edit could not be stored:', databaseErrorCode(error) || (error as Error).message)
      left[0]!.settle(
        new Fault(503, 'unavailable', 'The database doesn’t answer. Your edit is kept here and will be sent again.'),
      )
      return
    } finally {
      release()
    }
  }
}

/** What was thought to be so isn't: the facts must be read. */
class Stale extends Error {}

/** Trees held in memory are taken as they are; the numbers of others are read. */
async function versionsOf(asks: readonly Ask[]): Promise<Map<string, number>> {
  const versions = new Map<string, number>()
  const unknown = new Set<string>()
  for (const { treeId } of asks) {
    const item = heldNow(treeId)
    if (item) versions.set(treeId, item.version)
    else unknown.add(treeId)
  }
  if (unknown.size > 0) {
    const [rows] = (await database().execute(
      sql`select id, version from trees where id in ${[...unknown]}`,
    )) as unknown as [{ id: string; version: number }[]]
    for (const row of rows) versions.set(row.id, row.version)
  }
  return versions
}

/** Makes the edits in memory. Returns what to answer once they are stored; fills `made` with what has to be stored. */
function make(asks: readonly Ask[], made: Made[], at: Date, inFlight: Promise<void>): Map<Ask, Outcome | Error> {
  const answers = new Map<Ask, Outcome | Error>()
  for (const ask of asks) {
    const { treeId, userId, edit } = ask
    const item = heldNow(treeId)
    if (!item) throw new Stale()
    const numbered = item.recent.get(edit.id)
    if (numbered !== undefined) {
      answers.set(ask, { news: { ...edit, number: numbered, user: userId, at: at.toISOString() }, again: true })
      continue
    }
    try {
      const patches = applyChanges(item.tree, edit.changes)
      const news: NewsEdit = { ...edit, number: item.version + 1, user: userId, at: at.toISOString() }
      note(item, edit.id, news.number, edit.changes.length)
      item.inFlight = inFlight
      made.push({ ask, treeId, userId, news, patches, item })
      answers.set(ask, { news, again: false })
    } catch (error) {
      if (!(error instanceof Refused)) throw error
      answers.set(ask, new Fault(409, error.code, error.message))
    }
  }
  return answers
}

/** Takes what couldn't be stored out of memory again, the last first. */
function putBack(made: readonly Made[]): void {
  for (const { item, patches, news } of made.toReversed()) {
    unapply(item.tree, patches)
    item.version = news.number - 1
    item.text = null
    item.recent.delete(news.id)
    item.unsaved -= news.changes.length
    item.inFlight = null
  }
}

interface Facts {
  id: string
  version: number
  trashed_at: Date | null
  user_id: string | null
  role: Role | null
}

/**
 * Reads the facts: answers those who may not edit and what is in already, brings the trees up to date, and returns the
 * rest.
 */
async function sift(asks: readonly Ask[]): Promise<Ask[]> {
  const treeIds = [...new Set(asks.map(ask => ask.treeId))].sort()
  const userIds = [...new Set(asks.map(ask => ask.userId))]
  const [facts] = (await database().execute(sql`select t.id, t.version, t.trashed_at, m.user_id, m.role from trees t
    left join members m on m.tree_id = t.id and m.user_id in ${userIds} where t.id in ${treeIds}`)) as unknown as [
    Facts[],
  ]
  const known = await database()
    .select()
    .from(edits)
    .where(
      and(
        inArray(edits.treeId, treeIds),
        inArray(
          edits.editId,
          asks.map(ask => ask.edit.id),
        ),
      ),
    )
  const left: Ask[] = []
  for (const ask of asks) {
    const rows = facts.filter(row => row.id === ask.treeId)
    const role = rows.find(row => row.user_id === ask.userId)?.role
    const row = known.find(one => one.treeId === ask.treeId && one.editId === ask.edit.id)
    if (!rows[0] || !role)
      ask.settle(new Fault(404, 'no-tree', 'There is no such tree, or you have no role in it any more.'))
    else if (rows[0].trashed_at)
      ask.settle(new Fault(409, 'trashed', 'This tree is in the trash. Bring it back to edit it.'))
    else if (!allows(role, 'editor')) ask.settle(new Fault(403, 'role', `As ${role} you can’t change this tree.`))
    else if (row)
      ask.settle({
        news: { id: row.editId, number: row.number, changes: row.changes, user: row.userId, at: row.at.toISOString() },
        again: true,
      })
    else {
      left.push(ask)
      if (
        heldNow(ask.treeId)?.version !== rows[0].version &&
        !(await holdTree(database(), ask.treeId, rows[0].version))
      )
        letGo(ask.treeId)
    }
  }
  return left
}

function tell(made: readonly Made[]): void {
  const told = new Map<string, NewsEdit[]>()
  const items = new Map<string, Held>()
  for (const { treeId, news, item } of made) {
    const list = told.get(treeId)
    if (list) list.push(news)
    else told.set(treeId, [news])
    items.set(treeId, item)
  }
  for (const [treeId, news] of told) spread(treeId, news)
  for (const [treeId, item] of items)
    snapshotWhenDue(treeId, item).catch((error: unknown) =>
      console.error('A snapshot could not be stored:', databaseErrorCode(error)),
    )
}

/** An edit id for edits that the server itself makes for a person. */
export const newEditId = (): string => nanoid(16)
