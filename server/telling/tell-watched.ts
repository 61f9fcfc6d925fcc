import { and, eq, isNull } from 'drizzle-orm'
import type { NewsEdit } from '#core/contract'
import { touchedTopics, watchedAbove } from '#core/telling/from-edit'
import { Whereabouts } from '#core/telling/whereabouts'
import type { Topic, TopicId } from '#core/tree'
import { database, type Transaction } from '../database/connect'
import { tellings, trees, watches } from '../database/schema'
import { loadTree, readTree } from '../trees/held'
import type { Before } from './before'
import { doerOf } from './doer'

/* What somebody watches, a tree or a branch of it, and what others change there. */

/** Topics that a telling of watched changes names. */
const MOST_NAMED = 200

export interface Watched {
  /** Who watches each topic. */
  readonly by: ReadonlyMap<TopicId, readonly string[]>
  readonly centre: TopicId
  /** The number at which the topics stood so. */
  readonly version: number
  readonly topics: ReadonlyMap<TopicId, Topic>
}

/** What is watched in a tree, and the tree as it is now; null when nothing is. */
export async function watchedIn(treeId: string): Promise<Watched | null> {
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
  // A held tree goes on: its topics as they are at this number are kept.
  const { version, tree } = live
  return { by, version, centre: tree.centre, topics: new Map(tree.topics) }
}

/** Where topics hung after each of these edits. */
async function whereaboutsOf(
  tx: Transaction,
  treeId: string,
  edits: readonly NewsEdit[],
  before: Before,
  { version, topics }: Watched,
): Promise<Whereabouts> {
  const last = edits.at(-1)!.number
  // Where more was missed than is read at once, what stands now is too new for it.
  const then = last < version ? (await loadTree(tx, treeId, last))?.tree.topics : topics
  const where = new Whereabouts(edits, topic => then?.get(topic)?.parent)
  for (const [topic, number] of where.movedFromBefore) {
    const parent = await before.of(topic, number, 'parent')
    if (parent !== undefined) where.hungBefore(topic, parent)
  }
  return where
}

/**
 * Changes of what is watched go into the telling of it that one hasn't read, as long as there is one. A change counts where its topic
 * was when it was made; what is moved is told where it was taken from as well.
 */
export async function tellWatched(
  tx: Transaction,
  treeId: string,
  edits: readonly NewsEdit[],
  before: Before,
  watch: Watched,
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
  const { by, centre } = watch
  if (edits.length === 0) return new Set()
  // Where the whole tree is watched and nothing else, all that happens is told, wherever it hangs.
  const where = by.size > 1 || !by.has(centre) ? await whereaboutsOf(tx, treeId, edits, before, watch) : null
  const sums = new Map<string, { user: string; topic: TopicId; sum: Sum }>()
  const watched = new Set(by.keys())
  for (const edit of edits) {
    const doer = doerOf(edit)
    const touched = touchedTopics(edit.changes)
    const roots = new Map<TopicId, TopicId[]>()
    const moved = new Set(edit.changes.flatMap(change => (change.op === 'place' ? [change.topic] : [])))
    for (const topic of touched) {
      const above = new Set(where ? watchedAbove(topic, watched, id => where.after(id, edit.number)) : [])
      if (where && topic !== null && moved.has(topic))
        for (const root of watchedAbove(topic, watched, id => where.after(id, edit.number - 1))) above.add(root)
      // All that is in the tree is below its centre, loose topics and the tree's own settings too.
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
