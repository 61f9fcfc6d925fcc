import { and, count, desc, eq, inArray, isNull, lt, lte, max, or, type SQL } from 'drizzle-orm'
import type { TidingsPage, ToldCount } from '#core/contract'
import type { Tidings } from '#core/telling/grouped'
import { isQuiet, type Wall } from '#core/telling/when'
import { wallTime } from '#core/meeting/zones'
import { textOf } from '#core/talk/body'
import { cut } from '#core/tree'
import { namesOf } from '../access/names'
import { bus } from '../bus'
import { database, type Database, type Transaction } from '../database/connect'
import { comments, members, tellings, tellingWays, topics, trees, users } from '../database/schema'
import { waysOf } from './ways'

/* What somebody was told, read where it stands: of trees they have no role in any more nothing is said. */

const A_PAGE = 100
const EXCERPT = 200

/** Only of trees that are open to one; invitations say of which tree they are. */
const isOpen = () => or(eq(tellings.kind, 'invited'), and(eq(members.userId, tellings.userId), isNull(trees.trashedAt)))

/** Tellings of somebody that they may read, newest first. */
export async function tidingsOf(
  userId: string,
  which: SQL | undefined,
  most: number,
  db: Database | Transaction = database(),
): Promise<Tidings[]> {
  const rows = await db
    .select({
      one: tellings,
      tree: trees.title,
      topic: topics.title,
      thread: comments.threadId,
      body: comments.body,
      by: users.name,
    })
    .from(tellings)
    .innerJoin(trees, eq(trees.id, tellings.treeId))
    .leftJoin(members, and(eq(members.treeId, tellings.treeId), eq(members.userId, tellings.userId)))
    .leftJoin(topics, and(eq(topics.treeId, tellings.treeId), eq(topics.id, tellings.topicId)))
    .leftJoin(comments, and(eq(comments.treeId, tellings.treeId), eq(comments.id, tellings.comment)))
    .leftJoin(users, eq(users.id, tellings.by))
    .where(and(eq(tellings.userId, userId), isOpen(), which))
    .orderBy(desc(tellings.id))
    .limit(most)
  const { kinds } = (await waysOf([userId], db)).get(userId)!
  const unknown = rows.filter(({ by }) => !by).map(({ one }) => one.by)
  const names = unknown.length > 0 ? await namesOf(unknown) : {}
  return rows.map(({ one, tree, topic, thread, body, by }) => ({
    id: one.id,
    kind: one.kind,
    at: one.at.toISOString(),
    by: { id: one.by, name: by || names[one.by] || 'Somebody' },
    tree: { id: one.treeId, title: tree },
    topic: one.topicId === null ? null : { id: one.topicId, title: topic ?? '' },
    said: one.comment === null ? null : { thread: thread ?? '', words: body ? cut(textOf(body), EXCERPT) : '' },
    data: one.data,
    read: one.readAt !== null,
    loud: kinds[one.kind] === 'now',
  }))
}

export async function pageOf(userId: string, before?: number): Promise<TidingsPage> {
  const list = await tidingsOf(userId, before === undefined ? undefined : lt(tellings.id, before), A_PAGE + 1)
  const all = list.slice(0, A_PAGE)
  return { all, next: list.length > A_PAGE ? all.at(-1)!.id : null }
}

/** How many one hasn't read, the newest, and whether it may ring now. */
export async function countOf(userId: string, now: number): Promise<ToldCount> {
  const [row] = await database()
    .select({ count: count(), newest: max(tellings.id) })
    .from(tellings)
    .innerJoin(trees, eq(trees.id, tellings.treeId))
    .leftJoin(members, and(eq(members.treeId, tellings.treeId), eq(members.userId, tellings.userId)))
    .where(and(eq(tellings.userId, userId), isNull(tellings.readAt), isOpen()))
  const ways = (await waysOf([userId])).get(userId)!
  const { time } = await wallOf(userId, now)
  return { count: row?.count ?? 0, newest: row?.newest ?? 0, quiet: isQuiet(ways.quiet, time) }
}

/** What clock somebody lives by: their account's zone, or that of the browser they used last. */
export async function wallOf(userId: string, now: number): Promise<Wall> {
  const [row] = await database()
    .select({ own: users.zone, seen: tellingWays.zone })
    .from(users)
    .leftJoin(tellingWays, eq(tellingWays.userId, users.id))
    .where(eq(users.id, userId))
  return wallTime(now, row?.own || row?.seen || 'UTC')
}

/** Some of what was told, by one of these ways. */
export interface Which {
  readonly ids?: readonly number[] | undefined
  readonly upTo?: number | undefined
  readonly tree?: string | undefined
  readonly topic?: string | undefined
}

/** Marks as read, on every device. With a tree alone it's what was watched there; with a topic too, what was said on it. */
export async function readTold(userId: string, { ids, upTo, tree, topic }: Which): Promise<void> {
  const which =
    ids !== undefined
      ? inArray(tellings.id, ids.length > 0 ? [...ids] : [0])
      : upTo !== undefined
        ? lte(tellings.id, upTo)
        : tree === undefined
          ? null
          : and(
              eq(tellings.treeId, tree),
              topic === undefined
                ? eq(tellings.kind, 'watched')
                : and(eq(tellings.topicId, topic), inArray(tellings.kind, ['mention', 'reply'])),
            )
  if (which === null) return
  const [result] = await database()
    .update(tellings)
    .set({ readAt: new Date() })
    .where(and(eq(tellings.userId, userId), isNull(tellings.readAt), which))
  if (result.affectedRows > 0) bus.tell({ about: 'told', people: [userId] })
}
