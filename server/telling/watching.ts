import { and, count, eq, isNull } from 'drizzle-orm'
import type { ToldWays } from '#core/contract'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { members, tellingWays, topics, trees, users, watches } from '../database/schema'
import { waysOf } from './ways'

/** What one person watches at most. */
const MOST = 500

/** From now on somebody is told of changes by others in a branch; the tree's centre stands for all of it. Throws `no-topic`, `full`. */
export async function watchTopic(userId: string, treeId: string, topicId: string): Promise<void> {
  const db = database()
  const [topic] = await db
    .select({ removed: topics.removed })
    .from(topics)
    .where(and(eq(topics.treeId, treeId), eq(topics.id, topicId)))
  if (!topic || topic.removed) throw new Fault(404, 'no-topic', 'That topic isn’t in this tree.')
  const [many] = await db.select({ count: count() }).from(watches).where(eq(watches.userId, userId))
  if (many!.count >= MOST) throw new Fault(409, 'full', `One watches ${MOST} branches at most. Let one go first.`)
  await db.insert(watches).ignore().values({ userId, treeId, topicId })
}

export async function unwatchTopic(userId: string, treeId: string, topicId: string): Promise<void> {
  await database()
    .delete(watches)
    .where(and(eq(watches.userId, userId), eq(watches.treeId, treeId), eq(watches.topicId, topicId)))
}

/** The topics of a tree that somebody watches. */
export async function watchedBy(userId: string, treeId: string): Promise<string[]> {
  const rows = await database()
    .select({ topic: watches.topicId })
    .from(watches)
    .where(and(eq(watches.userId, userId), eq(watches.treeId, treeId)))
  return rows.map(({ topic }) => topic)
}

export async function toldWaysOf(userId: string): Promise<ToldWays> {
  const db = database()
  const [ways, [zone], rows] = await Promise.all([
    waysOf([userId]),
    db
      .select({ own: users.zone, seen: tellingWays.zone })
      .from(users)
      .leftJoin(tellingWays, eq(tellingWays.userId, users.id))
      .where(eq(users.id, userId)),
    db
      .select({ tree: trees.id, title: trees.title, centre: trees.centre, topic: topics.id, name: topics.title })
      .from(watches)
      .innerJoin(trees, and(eq(trees.id, watches.treeId), isNull(trees.trashedAt)))
      .innerJoin(members, and(eq(members.treeId, watches.treeId), eq(members.userId, watches.userId)))
      .innerJoin(topics, and(eq(topics.treeId, watches.treeId), eq(topics.id, watches.topicId)))
      .where(eq(watches.userId, userId))
      .orderBy(trees.title, topics.title),
  ])
  return {
    ways: ways.get(userId)!,
    zone: zone?.own || zone?.seen || 'UTC',
    watching: rows.map(({ tree, title, centre, topic, name }) => ({
      tree: { id: tree, title },
      topic: topic === centre ? null : { id: topic, title: name },
      watched: topic,
    })),
  }
}
