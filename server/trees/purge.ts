import { setImmediate as breathe } from 'node:timers/promises'
import { and, asc, eq } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import { applyChanges, type Change, fromSnapshot, noteWithout, toSnapshot, type Topic, type Tree } from '#core/tree'
import { writeAccess } from '../access/access-log'
import { Fault } from '../access/fault'
import { bus } from '../bus'
import type { Transaction } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { edits, snapshots, topicMarkers, topicPeople, topics, treeEpochs, trees } from '../database/schema'
import { purgeTalk } from '../talk/purge'
import { letGo, loadTree, packSnapshot, unpackSnapshot } from './held'
import { readLog } from './log'
import { writeWholeTree } from './rows'

/*
 * Takes a text out for good: a password that was pasted by mistake. The one thing that alters the log of edits, and it's said
 * there. In titles, links and whatever else is text it's replaced where it stands. A note is kept as it is now, in a document of
 * its own, and how it came to be is forgotten, since what was typed and deleted stays in the bytes. The tree gets a new epoch, so that
 * every browser takes it anew.
 */

const INSTEAD = '▮▮▮'
/** Addresses, which are never words. */
const KEYS = new Set(['id', 'topic', 'parent', 'order', 'op', 'field', 'set', 'kind', 'note', 'update'])

function without<T>(value: T, text: string): T {
  if (typeof value === 'string') return value.replaceAll(text, INSTEAD) as T
  if (Array.isArray(value)) return value.map(item => without(item as unknown, text)) as T
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value).map(([key, item]) => [
      key,
      KEYS.has(key) ? (item as unknown) : without(item as unknown, text),
    ]),
  ) as T
}

/** The tree without the text, and the notes that were written anew. */
function cleaned(tree: Tree, text: string, notes: ReadonlyMap<string, string>): Tree {
  const snapshot = toSnapshot(tree)
  const topics = snapshot.topics.map(topic => {
    const clean = without(topic, text)
    return notes.has(topic.id) && topic.note ? { ...clean, note: notes.get(topic.id)! } : clean
  })
  return fromSnapshot({ ...snapshot, fields: without(snapshot.fields, text), topics })
}

/** Notes that had the text in them at any time, as they are from now on: without it, and without how they came to be. */
async function tainted(tx: Transaction, treeId: string, text: string): Promise<Map<string, string>> {
  const first = await loadTree(tx, treeId, 0)
  const had = new Set<string>()
  const look = (topic: Topic | undefined): void => {
    if (topic?.note && !had.has(topic.id) && noteWithout(topic.note, text, INSTEAD).found) had.add(topic.id)
  }
  for (const topic of first!.tree.topics.values()) look(topic)
  // After each edit, since whoever typed it letter by letter left it in no single one.
  for (const edit of await readLog(tx, treeId, 0)) {
    await breathe()
    for (const { after, before } of applyChanges(first!.tree, edit.changes))
      if (after?.note !== before?.note) look(after)
  }
  const notes = new Map<string, string>()
  for (const id of had) {
    const now = first!.tree.topics.get(id)?.note
    if (now) notes.set(id, noteWithout(now, text, INSTEAD).note)
  }
  return notes
}

function cleanedChanges(changes: readonly Change[], text: string, notes: ReadonlyMap<string, string>): Change[] {
  return changes.flatMap((change): Change[] => {
    if (change.op === 'note' && notes.has(change.topic)) return []
    const clean = without(change, text)
    return clean.op === 'add' && clean.with?.note && notes.has(clean.topic)
      ? [{ ...clean, with: { ...clean.with, note: notes.get(clean.topic)! } }]
      : [clean]
  })
}

/** Answers with how many edits and notes it was taken out of. Throws `not-there` when it's nowhere. */
export async function purge(treeId: string, userId: string, text: string): Promise<{ places: number }> {
  letGo(treeId)
  let places = 0
  await inTransaction(async tx => {
    places = 0
    // Edits on their way wait for this row.
    const [row] = await tx.select().from(trees).where(eq(trees.id, treeId)).for('update')
    const live = await loadTree(tx, treeId, row!.version)
    if (!live) throw new Fault(404, 'no-tree', 'There is no such tree.')
    const notes = await tainted(tx, treeId, text)
    places = notes.size
    for (const edit of await tx.select().from(edits).where(eq(edits.treeId, treeId)).orderBy(asc(edits.number))) {
      const changes = cleanedChanges(edit.changes as readonly Change[], text, notes)
      if (JSON.stringify(changes) === JSON.stringify(edit.changes)) continue
      places++
      const where = and(eq(edits.treeId, treeId), eq(edits.number, edit.number))
      await tx.update(edits).set({ changes }).where(where)
    }
    places += await purgeTalk(tx, treeId, text, INSTEAD)
    const tree = cleaned(live.tree, text, notes)
    if (places === 0 && JSON.stringify(toSnapshot(tree)) === JSON.stringify(toSnapshot(live.tree)))
      throw new Fault(404, 'not-there', 'That text is nowhere in this tree or its history. Nothing was changed.')
    for (const { number } of await tx
      .select({ number: snapshots.number })
      .from(snapshots)
      .where(eq(snapshots.treeId, treeId))) {
      const [{ data }] = (await tx
        .select({ data: snapshots.data })
        .from(snapshots)
        .where(and(eq(snapshots.treeId, treeId), eq(snapshots.number, number)))) as [{ data: Buffer }]
      const then = await packSnapshot(cleaned((await unpackSnapshot(data)).tree, text, notes))
      await tx
        .update(snapshots)
        .set({ data: then })
        .where(and(eq(snapshots.treeId, treeId), eq(snapshots.number, number)))
    }
    // From here on, whatever the edits before can still tell.
    const now = await packSnapshot(tree)
    await tx
      .insert(snapshots)
      .values({ treeId, number: row!.version, data: now })
      .onDuplicateKeyUpdate({ set: { data: now } })
    // By an older epoch a file that still has the text would count as what came from here, and bring it back.
    for (const table of [topics, topicPeople, topicMarkers, treeEpochs])
      await tx.delete(table).where(eq(table.treeId, treeId))
    await writeWholeTree(tx, treeId, tree)
    await tx
      .update(trees)
      .set({ epoch: nanoid(12), title: tree.topics.get(tree.centre)!.title, fields: tree.fields })
      .where(eq(trees.id, treeId))
    await writeAccess({ treeId, by: userId, what: 'purged', about: `${text.length} characters` }, tx)
  })
  letGo(treeId)
  bus.tell({ about: 'replaced', tree: treeId })
  return { places: Math.max(places, 1) }
}
