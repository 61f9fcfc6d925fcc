import { type SQL, sql } from 'drizzle-orm'
import type { OwedTask } from '#core/contract'
import type { Again } from '#core/tree/again'
import { database } from '../database/connect'

/** As it's told, with what a calendar and a reminder need to know besides. */
export interface OpenTask extends OwedTask {
  /** When it begins on the day it's due, where that is said; on the wall of `zone`. */
  readonly begins: string | null
  readonly zone: string | null
}

/**
 * Unfinished tasks by due date, undated last. `from`: a query of `tree_id`, `topic_id`, `user_id` of whom they're owed
 * by, in trees open to
 * `viewer`. A task in a branch that lies in the trash isn't owed: the path up is walked and dropped when any step is
 * removed.
 */
async function tasksOf(from: SQL, viewer: SQL, most: number): Promise<OpenTask[]> {
  const [rows] = (await database().execute(sql`
    with recursive owed as (
      select t.tree_id, t.id, t.title, t.due, t.done, t.priority, json_query(t.rest, '$.again') as again, json_value(t.rest, '$.dueTime') as time, if(t.start = t.due, json_value(t.rest, '$.startTime'), null) as begins, json_value(tr.fields, '$.zone') as zone, t.removed, t.parent, tr.title as tree, m.role, u.name as person, p.user_id
      from (${from}) p
      join members m on m.tree_id = p.tree_id and m.user_id = ${viewer}
      join trees tr on tr.id = p.tree_id and tr.trashed_at is null and tr.starter = 0
      join topics t on t.tree_id = p.tree_id and t.id = p.topic_id
      join users u on u.id = p.user_id
      where coalesce(t.done, 0) < 100 and t.removed = 0
        -- The owner of an agenda item doesn't owe it as a task: sections to fill in are listed on their own.
        and not (t.due is null and t.start is null and t.duration is null and t.done is null and t.priority is null and json_exists(t.rest, '$.item'))
    ), up as (
      select tree_id, id, parent, removed from owed
      union distinct
      select up.tree_id, up.id, a.parent, a.removed from up join topics a on a.tree_id = up.tree_id and a.id = up.parent where up.parent is not null
    )
    select owed.tree_id as treeId, owed.tree, owed.id, owed.title, owed.due, owed.time, owed.begins, owed.zone, owed.done, owed.priority, owed.again, owed.role, owed.person, owed.user_id as userId from owed
    where not exists (select 1 from up where up.tree_id = owed.tree_id and up.id = owed.id and up.removed = 1)
    order by owed.due is null, owed.due, owed.time is null, owed.time, owed.title limit ${most}`)) as unknown as [
    (Omit<OpenTask, 'again'> & { readonly again: Again | string | null })[],
  ]
  // Whether a part of JSON comes read or as its text is the driver's to say.
  return rows.map(({ again, ...row }) => ({
    ...row,
    again: typeof again === 'string' ? (JSON.parse(again) as Again) : again,
  }))
}

/** Everything unfinished that somebody is on, in all trees open to them. One indexed query and its paths. */
export async function openTasks(userId: string, most = 500): Promise<OpenTask[]> {
  const rows = await tasksOf(
    sql`select tree_id, topic_id, user_id from topic_people where user_id = ${userId}`,
    sql`${userId}`,
    most,
  )
  return rows.map(row => ({ ...row, person: null }))
}

/** Unfinished tasks that others are on because this person put them there, as the log of edits says. */
export async function askedOfOthers(userId: string, most = 500): Promise<OpenTask[]> {
  return tasksOf(
    sql`select distinct p.tree_id, p.topic_id, p.user_id from edits e
    join members mine on mine.tree_id = e.tree_id and mine.user_id = e.user_id
    join json_table(e.changes, '$[*]' columns (op varchar(10) path '$.op', topic varchar(40) character set ascii collate ascii_bin path '$.topic', st varchar(10) path '$.set', member varchar(40) character set ascii collate ascii_bin path '$.member',
      nested path '$.with.people[*]' columns (born varchar(40) path '$'))) c
    join topic_people p on p.tree_id = e.tree_id and p.topic_id = c.topic and p.user_id = coalesce(c.born, if(c.op = 'put' and c.st = 'people', c.member, null))
    where e.user_id = ${userId} and p.user_id <> ${userId}`,
    sql`${userId}`,
    most,
  )
}

/** Unfinished tasks due on these days (ISO 8601), with the id of each person who is on them. */
export async function dueOn(days: readonly string[]): Promise<(OpenTask & { readonly userId: string })[]> {
  return tasksOf(
    sql`select p.tree_id, p.topic_id, p.user_id from topic_people p join topics d on d.tree_id = p.tree_id and d.id = p.topic_id where d.due in ${[...days]}`,
    sql`p.user_id`,
    20_000,
  ) as Promise<(OpenTask & { userId: string })[]>
}
