import { and, asc, eq, gt, inArray, sql } from 'drizzle-orm'
import { type DoneEdit, type Telling, tellingsOfEdit, touchedTopics } from '#core/telling/from-edit'
import { tellingsOfSaying } from '#core/telling/from-saying'
import type { NewsEdit } from '#core/contract'
import { topicOfPlace } from '#core/talk/saying'
import type { TopicId } from '#core/tree'
import { bus } from '../bus'
import type { Transaction } from '../database/connect'
import {
  comments,
  members,
  sayings,
  talks,
  tellingMarks,
  tellings,
  threads,
  topicPeople,
  trees,
} from '../database/schema'
import { inTransaction } from '../database/transaction'
import { toldOf } from '../talk/door'
import { readLog } from '../trees/log'
import { Before, peopleBelow } from './before'
import { doerOf } from './doer'
import { tellWatched, type Watched, watchedIn } from './tell-watched'
import { waysOf } from './ways'

/*
 * From the logs of a tree to what its people are told. A mark says how far each log has been read; it's moved in the transaction that
 * keeps what was told, so nothing is missed and nothing told twice, whoever stops in between and however many processes there are.
 */

/** Edits, and sayings, that are read at once. */
const AT_ONCE = 500
/** Topics whose people are asked for by name; of more, everybody's in the tree are read. */
const MOST_ASKED = 1000

interface Row {
  readonly to: string
  readonly row: typeof tellings.$inferInsert
}

/** Tells what has happened in a tree since it was told last. Returns the accounts that were told something. */
export async function tellOf(treeId: string): Promise<ReadonlySet<string>> {
  const told = new Set<string>()
  for (let more = true; more;) {
    // What is watched is asked of the tree itself, which is brought up before anything is held.
    const watched = await watchedIn(treeId)
    const some = await inTransaction(tx => tellSome(tx, treeId, watched))
    for (const id of some.told) told.add(id)
    more = some.more
  }
  if (told.size > 0) bus.tell({ about: 'told', people: [...told] })
  return told
}

async function tellSome(
  tx: Transaction,
  treeId: string,
  watched: Watched | null,
): Promise<{ told: ReadonlySet<string>; more: boolean }> {
  const told = new Set<string>()
  const mark = await takeMark(tx, treeId)
  const [tree] = await tx
    .select({ version: trees.version, said: talks.number, starter: trees.starter, size: trees.topicCount })
    .from(trees)
    .leftJoin(talks, eq(talks.treeId, trees.id))
    .where(eq(trees.id, treeId))
  if (!tree) return { told, more: false }
  // A restore from a backup goes back in numbers.
  const from = { edits: Math.min(mark.edits, tree.version), said: Math.min(mark.said, tree.said ?? 0) }
  const edits = await readLog(tx, treeId, from.edits, {
    most: AT_ONCE,
    // What came after the tree was looked at hangs on topics that aren't known yet; it's told in the next round.
    ...(watched ? { until: watched.version } : {}),
  })
  const said =
    (tree.said ?? 0) === from.said
      ? []
      : await tx
          .select()
          .from(sayings)
          .where(and(eq(sayings.treeId, treeId), gt(sayings.number, from.said)))
          .orderBy(asc(sayings.number))
          .limit(AT_ONCE)
  const before = new Before(tx, treeId, tree.size, from.edits)
  const to = { edits: edits.at(-1)?.number ?? from.edits, said: said.at(-1)?.number ?? from.said }
  // From a starter others begin: nobody owes anything in it.
  const ofEdits = tree.starter ? [] : await rowsOfEdits(tx, treeId, edits, before)
  if (ofEdits.length === 0 && said.length === 0 && !watched) {
    // Most of what is done concerns nobody else, and isn't asked about further.
    await moveMark(tx, mark, to)
    return { told, more: edits.length === AT_ONCE }
  }
  const people = await tx.select({ id: members.userId }).from(members).where(eq(members.treeId, treeId))
  const here = people.map(({ id }) => id)
  const rows: Row[] = [...ofEdits, ...(await rowsOfSayings(tx, treeId, said, here))]
  const present = new Set(here)
  const wanted = await waysOf(here, tx)
  const kept = rows.filter(({ to: id, row }) => present.has(id) && wanted.get(id)!.kinds[row.kind] !== 'never')
  for (let i = 0; i < kept.length; i += AT_ONCE)
    await tx
      .insert(tellings)
      .ignore()
      .values(kept.slice(i, i + AT_ONCE).map(({ row }) => row))
  for (const { to: id } of kept) told.add(id)
  await forget(tx, treeId, said)
  if (watched)
    for (const id of await tellWatched(
      tx,
      treeId,
      edits,
      before,
      watched,
      present,
      id => wanted.get(id)!.kinds.watched !== 'never',
    ))
      told.add(id)
  await moveMark(tx, mark, to)
  return { told, more: edits.length === AT_ONCE || said.length === AT_ONCE }
}

type Mark = typeof tellingMarks.$inferSelect

/** How far the logs of a tree have been read, and nobody else reads on until this transaction is over. */
async function takeMark(tx: Transaction, treeId: string): Promise<Mark> {
  const standing = () => tx.select().from(tellingMarks).where(eq(tellingMarks.treeId, treeId)).for('update')
  const [mark] = await standing()
  if (mark) return mark
  await tx.insert(tellingMarks).ignore().values({ treeId, edits: 0, said: 0 })
  return (await standing())[0]!
}

async function moveMark(tx: Transaction, mark: Mark, to: { readonly edits: number; readonly said: number }) {
  if (mark.edits === to.edits && mark.said === to.said) return
  await tx.update(tellingMarks).set(to).where(eq(tellingMarks.treeId, mark.treeId))
}

async function rowsOfEdits(
  tx: Transaction,
  treeId: string,
  edits: readonly NewsEdit[],
  before: Before,
): Promise<Row[]> {
  const topics = [...new Set(edits.flatMap(({ changes }) => [...touchedTopics(changes)]))].filter(id => id !== null)
  const on = new Map<TopicId, string[]>()
  if (topics.length > 0)
    for (const { topicId, userId } of await tx
      .select({ topicId: topicPeople.topicId, userId: topicPeople.userId })
      .from(topicPeople)
      .where(
        and(
          eq(topicPeople.treeId, treeId),
          // One edit may touch more topics than a statement names.
          ...(topics.length > MOST_ASKED ? [] : [inArray(topicPeople.topicId, topics)]),
        ),
      ))
      on.set(topicId, [...(on.get(topicId) ?? []), userId])
  const roots = new Set<TopicId>()
  const dates = new Map<string, string | null | undefined>()
  for (const edit of edits)
    for (const change of edit.changes) {
      if (change.op === 'remove') roots.add(change.topic)
      if (change.op !== 'set' || (change.field !== 'due' && change.field !== 'start')) continue
      const key = `${change.topic} ${edit.number} ${change.field}`
      // Asked only where it's told to somebody.
      if (!dates.has(key) && on.get(change.topic)?.some(id => id !== doerOf(edit)))
        dates.set(key, await before.of(change.topic, edit.number, change.field))
    }
  const below = await peopleBelow(tx, treeId, roots)
  return edits.flatMap(edit => {
    const done: DoneEdit = { number: edit.number, by: doerOf(edit), changes: edit.changes }
    return tellingsOfEdit(done, {
      peopleOn: id => on.get(id) ?? [],
      peopleBelow: root => below.get(root) ?? new Map<TopicId, readonly string[]>(),
      was: (topic, number, field) => dates.get(`${topic} ${number} ${field}`),
    }).map(one => rowOf(treeId, one, done.by, edit.at, null))
  })
}

async function rowsOfSayings(
  tx: Transaction,
  treeId: string,
  said: readonly (typeof sayings.$inferSelect)[],
  here: readonly string[],
): Promise<Row[]> {
  const about = [...new Set(said.map(({ threadId }) => threadId))]
  if (about.length === 0) return []
  const [places, speakers] = await Promise.all([
    tx
      .select({ id: threads.id, place: threads.place })
      .from(threads)
      .where(and(eq(threads.treeId, treeId), inArray(threads.id, about))),
    tx
      .select({ thread: comments.threadId, by: comments.by, first: sql<number>`min(${comments.number})` })
      .from(comments)
      .where(and(eq(comments.treeId, treeId), inArray(comments.threadId, about)))
      .groupBy(comments.threadId, comments.by),
  ])
  const topicOf = new Map(places.map(({ id, place }) => [id, topicOfPlace(place)]))
  return said.flatMap(row => {
    const told = toldOf(row)
    const before = speakers.filter(({ thread, first }) => thread === row.threadId && Number(first) < row.number)
    return tellingsOfSaying(told, {
      topic: topicOf.get(row.threadId) ?? null,
      speakers: before.map(({ by }) => by),
      members: here,
    }).map(one => rowOf(treeId, one, told.by, told.at, row.comment))
  })
}

const rowOf = (
  treeId: string,
  { to, kind, topic, once, data }: Telling,
  by: string,
  at: string,
  comment: string | null,
): Row => ({ to, row: { userId: to, kind, treeId, topicId: topic, comment, by, at: new Date(at), data, once } })

/** A comment that was withdrawn says nothing any more. */
async function forget(tx: Transaction, treeId: string, said: readonly (typeof sayings.$inferSelect)[]): Promise<void> {
  const gone = said.filter(({ data }) => data.op === 'withdraw').map(({ comment }) => comment)
  if (gone.length > 0)
    await tx.delete(tellings).where(and(eq(tellings.treeId, treeId), inArray(tellings.comment, gone)))
}
