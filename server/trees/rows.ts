import { sql } from 'drizzle-orm'
import type { Topic, Tree } from '#core/tree'
import type { Transaction } from '../database/connect'
import { memberRows, TOPIC_UPSERT, topicRow } from './commit'

/** Rows in one statement; keeps each well under MariaDB's packet limit. */
const CHUNK = 2000

function* chunks<T>(list: readonly T[]): Generator<readonly T[]> {
  for (let i = 0; i < list.length; i += CHUNK) yield list.slice(i, i + CHUNK)
}

/** Writes every topic of a new tree. */
export async function writeWholeTree(tx: Transaction, treeId: string, tree: Tree): Promise<void> {
  const topics: Topic[] = [...tree.topics.values()]
  for (const part of chunks(topics)) await tx.execute(TOPIC_UPSERT(part.map(topic => topicRow(treeId, topic))))
  for (const set of ['people', 'markers'] as const) {
    for (const part of chunks(topics.filter(topic => topic[set].length > 0))) {
      // Two statements in one text need a compound around them.
      await tx.execute(
        sql`begin not atomic ${memberRows(
          set,
          part.map(topic => ({ treeId, topic })),
        )} end`,
      )
    }
  }
}
