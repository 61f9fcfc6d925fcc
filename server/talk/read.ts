import { and, asc, desc, eq, gt, inArray, isNull, isNotNull, lt, ne, sql, type SQL } from 'drizzle-orm'
import { fold } from '#core/find/text'
import type { BenchPage, TalkNews, TalkOverview, ThreadPage } from '#core/contract'
import { BENCH } from '#core/talk/saying'
import type { Comment, Thread, ThreadSign } from '#core/talk/thread'
import { namesOf } from '../access/names'
import { database } from '../database/connect'
import { likeAnywhere } from '../database/like'
import { comments, members, sayings, talks, threads } from '../database/schema'
import { toldOf } from './door'

/* What was said in a tree, as far as it's asked for. */

const THREADS_A_PAGE = 30
const LINES_A_PAGE = 60
/** Sayings told one by one to whoever was away; beyond that it's cheaper to look anew. */
const MOST_NEWS = 1000

async function newest(treeId: string): Promise<number> {
  const [row] = await database().select().from(talks).where(eq(talks.treeId, treeId))
  return row?.number ?? 0
}

/** Signs of every thread, without words, and what of the talk of the tree somebody hasn't read. */
export async function overview(treeId: string, userId: string): Promise<TalkOverview> {
  const number = await newest(treeId)
  if (number === 0) return { number, signs: [], unread: 0, seen: 0 }
  const db = database()
  const [heads, said, [member]] = await Promise.all([
    db
      .select()
      .from(threads)
      .where(and(eq(threads.treeId, treeId), ne(threads.id, BENCH))),
    // Read without the words, whatever those weigh.
    db
      .select({ thread: comments.threadId, by: comments.by, mentions: comments.mentions })
      .from(comments)
      .where(and(eq(comments.treeId, treeId), ne(comments.threadId, BENCH), eq(comments.withdrawn, false))),
    db
      .select({ seen: members.benchSeen })
      .from(members)
      .where(and(eq(members.treeId, treeId), eq(members.userId, userId))),
  ])
  const seen = member?.seen ?? 0
  const [unread] = await db
    .select({ count: sql<number>`count(*)` })
    .from(comments)
    .where(
      and(
        eq(comments.treeId, treeId),
        eq(comments.threadId, BENCH),
        gt(comments.number, seen),
        ne(comments.by, userId),
        eq(comments.withdrawn, false),
      ),
    )
  const found = new Map<string, { count: number; by: Set<string>; mentions: Set<string> }>()
  for (const { thread, by, mentions } of said) {
    const one = found.get(thread) ?? { count: 0, by: new Set(), mentions: new Set() }
    found.set(thread, one)
    one.count++
    one.by.add(by)
    for (const person of mentions) one.mentions.add(person)
  }
  const signs = heads.map(({ id, place, settled }): ThreadSign => {
    const one = found.get(id)
    return {
      id,
      place,
      settled: settled !== null,
      count: one?.count ?? 0,
      by: [...(one?.by ?? [])],
      mentions: [...(one?.mentions ?? [])],
    }
  })
  return { number, signs, unread: Number(unread?.count ?? 0), seen }
}

/** What was said after a number. */
export async function newsSince(treeId: string, since: number): Promise<TalkNews> {
  const rows = await database()
    .select()
    .from(sayings)
    .where(and(eq(sayings.treeId, treeId), gt(sayings.number, since)))
    .orderBy(asc(sayings.number))
    .limit(MOST_NEWS + 1)
  return { told: rows.slice(0, MOST_NEWS).map(toldOf), more: rows.length > MOST_NEWS }
}

function commentOf(row: typeof comments.$inferSelect): Comment {
  return {
    id: row.id,
    thread: row.threadId,
    by: row.by,
    at: row.at.toISOString(),
    edited: row.edited?.toISOString() ?? null,
    body: row.body,
    became: row.became,
    number: row.number,
  }
}

/** What threads are looked for by. */
export interface Wanted {
  readonly thread?: string | undefined
  readonly topic?: string | undefined
  readonly settled?: boolean | undefined
  readonly by?: string | undefined
  readonly mentions?: string | undefined
  readonly text?: string | undefined
  readonly before?: number | undefined
}

/** Threads of comments, the one in which something happened last first. Text is looked for without case and accents. */
export async function threadsOf(
  treeId: string,
  { thread, topic, settled, by, mentions, text, before }: Wanted,
): Promise<ThreadPage> {
  const within = (condition: SQL): SQL =>
    sql`exists (select 1 from comments where comments.tree_id = ${threads.treeId} and comments.thread_id = ${threads.id} and comments.withdrawn = 0 and ${condition})`
  const like = likeAnywhere(text && fold(text))
  const heads = await database()
    .select()
    .from(threads)
    .where(
      and(
        eq(threads.treeId, treeId),
        ne(threads.id, BENCH),
        thread === undefined ? undefined : eq(threads.id, thread),
        topic === undefined ? undefined : eq(threads.topicId, topic),
        settled === undefined ? undefined : settled ? isNotNull(threads.settled) : isNull(threads.settled),
        before === undefined ? undefined : lt(threads.newest, before),
        // One that was withdrawn whole is found no more, but where it hung.
        topic === undefined && thread === undefined ? within(sql`true`) : undefined,
        by === undefined ? undefined : within(sql`comments.by_user = ${by}`),
        mentions === undefined ? undefined : within(sql`json_contains(comments.mentions, ${JSON.stringify(mentions)})`),
        like === null ? undefined : within(sql`comments.text like ${like}`),
      ),
    )
    .orderBy(desc(threads.newest))
    .limit(THREADS_A_PAGE + 1)
  const page = heads.slice(0, THREADS_A_PAGE)
  const said =
    page.length === 0
      ? []
      : await database()
          .select()
          .from(comments)
          .where(
            and(
              eq(comments.treeId, treeId),
              inArray(
                comments.threadId,
                page.map(({ id }) => id),
              ),
            ),
          )
          .orderBy(asc(comments.number))
  const byThread = new Map<string, Comment[]>(page.map(({ id }) => [id, []]))
  for (const row of said) byThread.get(row.threadId)?.push(commentOf(row))
  return {
    threads: page.map(({ id, place, settled: how }): Thread => ({
      id,
      place,
      settled: how,
      comments: byThread.get(id)!,
    })),
    names: await namesOf(said.map(({ by }) => by)),
    next: heads.length > THREADS_A_PAGE ? page.at(-1)!.newest : null,
  }
}

/** The talk of the tree, its newest lines or those before a number, from the first to the last. */
export async function bench(
  treeId: string,
  { before, text }: { before?: number | undefined; text?: string | undefined },
): Promise<BenchPage> {
  const like = likeAnywhere(text && fold(text))
  const rows = await database()
    .select()
    .from(comments)
    .where(
      and(
        eq(comments.treeId, treeId),
        eq(comments.threadId, BENCH),
        before === undefined ? undefined : lt(comments.number, before),
        like === null ? undefined : sql`${comments.text} like ${like}`,
      ),
    )
    .orderBy(desc(comments.number))
    .limit(LINES_A_PAGE + 1)
  const page = rows.slice(0, LINES_A_PAGE)
  return {
    comments: page.reverse().map(commentOf),
    names: await namesOf(page.map(({ by }) => by)),
    next: rows.length > LINES_A_PAGE ? page[0]!.number : null,
  }
}
