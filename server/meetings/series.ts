import { sql } from 'drizzle-orm'
import type { SeriesLog } from '#core/contract'
import { seriesOf } from '#core/meeting/brief'
import { entriesOf } from '#core/meeting/record'
import { isoDay } from '#core/schedule/days'
import { database } from '../database/connect'
import { openMeeting } from './meeting'

/** When each action of a series that is done was last set so, as the log of edits says. */
export async function seriesLog(treeId: string, topicId: string, version: number): Promise<SeriesLog> {
  const { tree } = await openMeeting(treeId, topicId, version)
  const done = seriesOf(tree, topicId)
    .flatMap(id => entriesOf(tree, id))
    .filter(topic => topic.done === 100)
    .map(({ id }) => id)
  if (done.length === 0) return { closedOn: {} }
  const [rows] = (await database().execute(sql`
    select c.topic as id, max(e.at) as at from edits e
    join json_table(e.changes, '$[*]' columns (op varchar(10) path '$.op', topic varchar(40) path '$.topic', field varchar(20) path '$.field', value varchar(20) path '$.value', born varchar(20) path '$.with.done')) c
    where e.tree_id = ${treeId} and c.topic in ${done} and ((c.op = 'set' and c.field = 'done' and c.value = '100') or (c.op = 'add' and c.born = '100')) group by c.topic`)) as unknown as [
    { id: string; at: Date }[],
  ]
  return { closedOn: Object.fromEntries(rows.map(({ id, at }) => [id, isoDay(new Date(at))])) }
}
