import { sql } from 'drizzle-orm'
import { database } from '../database/connect'

export interface TopicChanged {
  readonly topic: string
  readonly user: string
  /** ISO 8601 instant. */ readonly at: string
}

/** When each person last changed each topic, read from the log, which is the one place that knows. */
export async function lastChanges(treeId: string): Promise<TopicChanged[]> {
  const [rows] = (await database().execute(sql`select c.topic as topic, e.user_id as user, max(e.at) as at from edits e,
    json_table(e.changes, '$[*]' columns (topic varchar(40) path '$.topic')) c where e.tree_id = ${treeId} and c.topic is not null group by c.topic, e.user_id`)) as unknown as [
    { topic: string; user: string; at: Date | string }[],
  ]
  return rows.map(({ topic, user, at }) => ({
    topic,
    user,
    at: at instanceof Date ? at.toISOString() : `${at.replace(' ', 'T')}Z`,
  }))
}
