import { and, asc, eq, gt, inArray, isNull, sql } from 'drizzle-orm'
import { type DoneEdit, type Telling, tellingsOfEdit, touchedTopics, watchedAbove } from '#core/telling/from-edit'
import { tellingsOfSaying } from '#core/telling/from-saying'
import type { NewsEdit } from '#core/contract'
import { topicOfPlace } from '#core/talk/saying'
import type { TopicId } from '#core/tree'
import { bus } from '../bus'
import { database, type Transaction } from '../database/connect'
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
  watches,
} from '../database/schema'
import { toldOf } from '../talk/door'
import { readTree } from '../trees/held'
import { readLog } from '../trees/log'
import { Before, peopleBelow } from './before'
import { waysOf } from './ways'

/*
 * From the logs of a tree to what its people are told. A mark says how far each log has been read; it's moved in the transaction that
 * keeps what was told, so nothing is missed and nothing told twice, whoever stops in between and however many processes there are.
 */

/** Edits, and sayings, that are read at once. */
const AT_ONCE = 500
/** Topics whose people are asked for by name; of more, everybody's in the tree are read. */
const MOST_ASKED = 1000
/** Topics that a telling of watched changes names. */
const MOST_NAMED = 200

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
    more = await database().transaction(tx => tellSome(tx, treeId, watched, told))
  }
  if (told.size > 0) bus.tell({ about: 'told', people: [...told] })
  return told
}

async function tellSome(tx: Transaction, treeId: string, watched: Watched | null, told: Set<string>): Promise<boolean> {
  await tx.insert(tellingMarks).ignore().values({ treeId, edits: 0, said: 0 })
  const [mark] = await tx.select().from(tellingMarks).where(eq(tellingMarks.treeId, treeId)).for('update')
  const [tree] = await tx
    .select({ version: trees.version, said: talks.number, starter: trees.starter, size: trees.topicCount })
    .from(trees)
    .leftJoin(talks, eq(talks.treeId, trees.id))
    .where(eq(trees.id, treeId))
  if (!tree || !mark) return false
  // A restore from a backup goes back in numbers.
  const from = { edits: Math.min(mark.edits, tree.version), said: Math.min(mark.said, tree.said ?? 0) }
  const edits = await readLog(tx, treeId, from.edits, {
    most: AT_ONCE,
    // What came after the tree was looked at hangs on topics that aren't known yet; it's told in the next round.
    ...(watched ? { until: watched.version } : {}),
  })
  const said = await tx
    .select()
    .from(sayings)
    .where(and(eq(sayings.treeId, treeId), gt(sayings.number, from.said)))
    .orderBy(asc(sayings.number))
    .limit(AT_ONCE)
  const before = new Before(tx, treeId, tree.size)
  const to = { edits: edits.at(-1)?.number ?? from.edits, said: said.at(-1)?.number ?? from.said }
  const people = await tx.select({ id: members.userId }).from(members).where(eq(members.treeId, treeId))
  const here = people.map(({ id }) => id)
  const rows: Row[] = [
    // From a starter others begin: nobody owes anything in it.
    ...(tree.starter ? [] : await rowsOfEdits(tx, treeId, edits, before)),
    ...(await rowsOfSayings(tx, treeId, said, here)),
  ]
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
  await tx.update(tellingMarks).set(to).where(eq(tellingMarks.treeId, treeId))
  return edits.length === AT_ONCE || said.length === AT_ONCE
}

const doerOf = (edit: NewsEdit): string => edit.behalf ?? edit.user

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

// — What is watched

interface Watched {
  /** Who watches each topic. */
  readonly by: ReadonlyMap<TopicId, readonly string[]>
  readonly centre: TopicId
  /** The number of the tree that `parentOf` asks. */
  readonly version: number
  readonly parentOf: (topic: TopicId) => TopicId | null | undefined
}

async function watchedIn(treeId: string): Promise<Watched | null> {
  const rows = await database()
    .select({ topic: watches.topicId, user: watches.userId, version: trees.version })
    .from(watches)
    .innerJoin(trees, eq(trees.id, watches.treeId))
    .where(eq(watches.treeId, treeId))
  if (rows.length === 0) return null
  const live = await readTree(treeId, rows[0]!.version)
  if (!live) return null
  const by = new Map<TopicId, string[]>()
  for (const { topic, user } of rows) by.set(topic, [...(by.get(topic) ?? []), user])
  const { version, tree } = live
  return { by, version, centre: tree.centre, parentOf: topic => tree.topics.get(topic)?.parent }
}

/** Changes of what is watched go into the telling of it that one hasn't read, as long as there is one. */
async function tellWatched(
  tx: Transaction,
  treeId: string,
  edits: readonly NewsEdit[],
  before: Before,
  { by, centre, parentOf }: Watched,
  present: ReadonlySet<string>,
  wants: (user: string) => boolean,
): Promise<ReadonlySet<string>> {
  interface Sum {
    count: number
    from: number
    to: number
    at: string
    by: string
    topics: Set<TopicId>
  }
  const sums = new Map<string, { user: string; topic: TopicId; sum: Sum }>()
  const watched = new Set(by.keys())
  for (const edit of edits) {
    const doer = doerOf(edit)
    const touched = touchedTopics(edit.changes)
    const roots = new Map<TopicId, TopicId[]>()
    const moved = new Set(edit.changes.flatMap(change => (change.op === 'place' ? [change.topic] : [])))
    for (const topic of touched) {
      // All that is in the tree is below its centre, loose topics and the tree's own settings too.
      const above = new Set(watchedAbove(topic, watched, parentOf))
      // What was moved away is told where it was taken from as well. A tree that is watched whole has both.
      if (topic !== null && moved.has(topic) && (watched.size > 1 || !watched.has(centre))) {
        const from = await before.of(topic, edit.number, 'parent')
        for (const root of watchedAbove(from ?? null, watched, parentOf)) above.add(root)
      }
      if (watched.has(centre)) above.add(centre)
      for (const root of above) roots.set(root, [...(roots.get(root) ?? []), ...(topic === null ? [] : [topic])])
    }
    for (const [root, topics] of roots)
      for (const user of by.get(root)!) {
        if (user === doer || !present.has(user) || !wants(user)) continue
        const key = `${user} ${root} ${doer}`
        const { sum } = sums.get(key) ?? {
          sum: { count: 0, from: edit.number - 1, to: edit.number, at: edit.at, by: doer, topics: new Set<TopicId>() },
        }
        Object.assign(sum, { count: sum.count + 1, to: edit.number, at: edit.at })
        for (const id of topics) if (sum.topics.size < MOST_NAMED) sum.topics.add(id)
        sums.set(key, { user, topic: root, sum })
      }
  }
  for (const { user, topic, sum } of sums.values()) {
    const topicId = topic === centre ? null : topic
    const [open] = await tx
      .select()
      .from(tellings)
      .where(
        and(
          eq(tellings.userId, user),
          eq(tellings.treeId, treeId),
          eq(tellings.kind, 'watched'),
          topicId === null ? isNull(tellings.topicId) : eq(tellings.topicId, topicId),
          eq(tellings.by, sum.by),
          isNull(tellings.readAt),
          isNull(tellings.writtenAt),
        ),
      )
    const was = open && 'count' in open.data ? open.data : null
    const data = {
      count: (was?.count ?? 0) + sum.count,
      from: was?.from ?? sum.from,
      to: sum.to,
      topics: [...new Set([...(was?.topics ?? []), ...sum.topics])].slice(0, MOST_NAMED),
    }
    // It stands where its newest does, and rings anew.
    if (open) await tx.delete(tellings).where(eq(tellings.id, open.id))
    await tx
      .insert(tellings)
      .ignore()
      .values({
        userId: user,
        kind: 'watched',
        treeId,
        topicId,
        comment: null,
        by: sum.by,
        at: new Date(sum.at),
        data,
        once: `w${sum.to} ${topic}`,
      })
  }
  return new Set([...sums.values()].map(({ user }) => user))
}
