import { sql } from 'drizzle-orm'
import type { SeriesLog } from '#core/contract'
import { seriesOf } from '#core/meeting/brief'
import { entriesOf } from '#core/meeting/record'
import { isoDay } from '#core/schedule/days'
import { database } from '../database/connect'
import { openMeeting } from './meeting'

/** When each action of a series that is done was last set so, and when each meeting was ended, as the log of edits says. */
export async function seriesLog(treeId: string, topicId: string, version: number): Promise<SeriesLog> {
  const { tree } = await openMeeting(treeId, topicId, version)
  const series = seriesOf(tree, topicId)
  const done = series
    .flatMap(id => entriesOf(tree, id))
    .filter(topic => topic.done === 100)
    .map(({ id }) => id)
  return { closedOn: await closedOn(treeId, done), endedAt: await endedAt(treeId, series) }
}

async function closedOn(treeId: string, done: readonly string[]): Promise<SeriesLog['closedOn']> {
  if (done.length === 0) return {}
  const [rows] = (await database().execute(sql`
    select c.topic as id, max(e.at) as at from edits e
    join json_table(e.changes, '$[*]' columns (op varchar(10) path '$.op', topic varchar(40) path '$.topic', field varchar(20) path '$.field', value varchar(20) path '$.value', born varchar(20) path '$.with.done')) c
    where e.tree_id = ${treeId} and c.topic in ${done} and ((c.op = 'set' and c.field = 'done' and c.value = '100') or (c.op = 'add' and c.born = '100')) group by c.topic`)) as unknown as [
    { id: string; at: Date }[],
  ]
  return Object.fromEntries(rows.map(({ id, at }) => [id, isoDay(new Date(at))]))
}

async function endedAt(treeId: string, series: readonly string[]): Promise<SeriesLog['endedAt']> {
  const [rows] = (await database().execute(sql`
    select c.topic as id, max(e.number) as number from edits e
    join json_table(e.changes, '$[*]' columns (op varchar(10) path '$.op', topic varchar(40) path '$.topic', kind varchar(20) path '$.member.kind', stage varchar(20) path '$.member.stage')) c
    where e.tree_id = ${treeId} and c.topic in ${series} and c.op = 'put' and c.kind = 'stage' and c.stage = 'ended' group by c.topic`)) as unknown as [
    { id: string; number: number }[],
  ]
  return Object.fromEntries(rows.map(({ id, number }) => [id, Number(number)]))
}
