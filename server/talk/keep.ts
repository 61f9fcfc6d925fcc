import { nanoid } from 'nanoid'
import { and, asc, eq } from 'drizzle-orm'
import { type KeptThread, quoted } from '#core/talk/kept-talk'
import { BENCH, type Saying, topicOfPlace } from '#core/talk/saying'
import { database } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { comments, sayings, talks, threads } from '../database/schema'
import { wordsOf } from './words'

/* What was said goes along with the tree's own format, out and in. */

const ROWS_AT_ONCE = 500

export async function talkOf(treeId: string): Promise<KeptThread[]> {
  const db = database()
  const [heads, said] = await Promise.all([
    db.select().from(threads).where(eq(threads.treeId, treeId)).orderBy(asc(threads.newest)),
    db
      .select()
      .from(comments)
      .where(and(eq(comments.treeId, treeId), eq(comments.withdrawn, false)))
      .orderBy(asc(comments.number)),
  ])
  const found = new Map<string, KeptThread['comments']>(heads.map(({ id }) => [id, []]))
  for (const { id, threadId, by, at, body, became } of said)
    found.get(threadId)?.push({ id, by, at: at.toISOString(), body: body!, became })
  return heads.flatMap(({ id, place, settled }) => {
    const there = found.get(id)!
    return there.length === 0 ? [] : [{ id, place, settled: settled !== null, comments: there }]
  })
}

/**
 * Keeps threads that came in a file with a tree that was just made. All of it is said by whoever brought the file, with the names it
 * gives before the words.
 */
export async function keepTalk(
  treeId: string,
  by: string,
  kept: readonly KeptThread[],
  people: Readonly<Record<string, string>>,
): Promise<void> {
  if (kept.length === 0) return
  let number = 0
  const now = new Date()
  const rows = {
    sayings: [] as (typeof sayings.$inferInsert)[],
    threads: [] as (typeof threads.$inferInsert)[],
    comments: [] as (typeof comments.$inferInsert)[],
  }
  const log = (comment: string, threadId: string, data: Saying): void => {
    rows.sayings.push({ treeId, number, sayingId: data.id, userId: by, at: now, comment, threadId, data })
  }
  for (const thread of kept) {
    const id = thread.id === BENCH ? BENCH : nanoid(12)
    for (const [i, said] of thread.comments.entries()) {
      number++
      // A thread is known by the comment that begins it.
      const comment = id !== BENCH && i === 0 ? id : nanoid(12)
      const body = quoted(said.body, people[said.by] ?? '', said.at)
      log(comment, id, {
        id: nanoid(16),
        op: 'say',
        comment,
        thread: id,
        ...(comment === id ? { place: thread.place } : {}),
        body,
      })
      rows.comments.push({ treeId, id: comment, threadId: id, number, by, at: now, ...wordsOf(body) })
      if (said.became) {
        number++
        log(comment, id, { id: nanoid(16), op: 'became', comment, became: said.became })
        rows.comments.at(-1)!.became = said.became
      }
    }
    if (thread.settled && id !== BENCH) {
      number++
      log('', id, { id: nanoid(16), op: 'settle', thread: id, settled: true })
    }
    rows.threads.push({
      treeId,
      id,
      topicId: topicOfPlace(thread.place),
      place: thread.place,
      settled: thread.settled && id !== BENCH ? { by, at: now.toISOString() } : null,
      size: thread.comments.length,
      newest: number,
    })
  }
  await inTransaction(async tx => {
    await tx.insert(talks).values({ treeId, number })
    for (let i = 0; i < rows.sayings.length; i += ROWS_AT_ONCE)
      await tx.insert(sayings).values(rows.sayings.slice(i, i + ROWS_AT_ONCE))
    for (let i = 0; i < rows.comments.length; i += ROWS_AT_ONCE)
      await tx.insert(comments).values(rows.comments.slice(i, i + ROWS_AT_ONCE))
    for (let i = 0; i < rows.threads.length; i += ROWS_AT_ONCE)
      await tx.insert(threads).values(rows.threads.slice(i, i + ROWS_AT_ONCE))
  })
}
