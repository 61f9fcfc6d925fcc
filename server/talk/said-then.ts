import { and, asc, eq, gte, lt } from 'drizzle-orm'
import type { SaidThen } from '#core/contract'
import { textOf } from '#core/talk/body'
import { cut } from '#core/tree'
import { database } from '../database/connect'
import { comments, sayings, threads, topics } from '../database/schema'

const MOST = 300
const EXCERPT = 200

/** What was said in a tree from one instant to before another, oldest first: words as they are now, so that withdrawn ones are gone. */
export async function saidBetween(treeId: string, from: Date, to: Date | null): Promise<SaidThen[]> {
  const rows = await database()
    .select({
      number: sayings.number,
      by: sayings.userId,
      at: sayings.at,
      data: sayings.data,
      body: comments.body,
      topic: threads.topicId,
      title: topics.title,
    })
    .from(sayings)
    .leftJoin(threads, and(eq(threads.treeId, treeId), eq(threads.id, sayings.threadId)))
    .leftJoin(comments, and(eq(comments.treeId, treeId), eq(comments.id, sayings.comment)))
    .leftJoin(topics, and(eq(topics.treeId, treeId), eq(topics.id, threads.topicId)))
    .where(and(eq(sayings.treeId, treeId), gte(sayings.at, from), ...(to ? [lt(sayings.at, to)] : [])))
    .orderBy(asc(sayings.number))
    .limit(MOST)
  return rows.flatMap(({ number, by, at, data, body, topic, title }): SaidThen[] => {
    // What was reworded, withdrawn or made into something shows in the words as they are.
    if (data.op !== 'say' && data.op !== 'settle') return []
    return [
      {
        number,
        by,
        at: at.toISOString(),
        what: data.op === 'say' ? 'said' : data.settled ? 'settled' : 'opened again',
        topic: topic === null ? null : { id: topic, title: title ?? '' },
        words: data.op === 'say' && body ? cut(textOf(body), EXCERPT) : '',
      },
    ]
  })
}
