import { sql } from 'drizzle-orm'
import { database } from '../database/connect'

/** The topics that others than `userId` changed after an edit, by the log's index of topics: no edit is read for it. */
export async function touchedByOthers(treeId: string, since: number, userId: string): Promise<string[]> {
  const [rows] = (await database().execute(sql`
    select distinct t.topic_id as topic from edit_topics t
    join edits e on e.tree_id = t.tree_id and e.number = t.number
    where t.tree_id = ${treeId} and t.number > ${since} and coalesce(e.behalf, e.user_id) <> ${userId}`)) as unknown as [
    { topic: string }[],
  ]
  return rows.map(({ topic }) => topic)
}

export interface TopicChanged {
  readonly topic: string
  readonly user: string
  /** ISO 8601 instant. */
  readonly at: string
}

/** When each person last changed each topic, by the log's index of topics. */
export async function lastChanges(treeId: string): Promise<TopicChanged[]> {
  const [rows] = (await database().execute(sql`
    select t.topic_id as topic, coalesce(e.behalf, e.user_id) as user, max(e.at) as at from edit_topics t
    join edits e on e.tree_id = t.tree_id and e.number = t.number where t.tree_id = ${treeId}
    group by t.topic_id, coalesce(e.behalf, e.user_id)`)) as unknown as [
    { topic: string; user: string; at: Date | string }[],
  ]
  return rows.map(({ topic, user, at }) => ({
    topic,
    user,
    at: at instanceof Date ? at.toISOString() : `${at.replace(' ', 'T')}Z`,
  }))
}
