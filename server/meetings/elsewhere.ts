import { inArray, sql } from 'drizzle-orm'
import { lengthOfMeeting } from '#core/meeting/agenda'
import { briefOf, instantOfStart } from '#core/meeting/brief'
import { addDays } from '#core/schedule/days'
import { isLive, topicOf, type Tree } from '#core/tree'
import { isConfirmed } from '../access/accounts'
import { database } from '../database/connect'
import { users } from '../database/schema'
import { readTree } from '../trees/held'

interface Row {
  readonly treeId: string
  readonly id: string
  readonly version: number
  readonly mine: number
}

/**
 * Meetings of all trees that begin within a day of `day`; `mine` where the viewer has a role. The index on `meets`
 * finds them.
 */
async function meetingsAround(day: string, viewer: string): Promise<Row[]> {
  const [rows] = (await database().execute(sql`
    select distinct t.tree_id as treeId, t.id, tr.version, m.user_id is not null as mine from topics t
    join trees tr on tr.id = t.tree_id and tr.trashed_at is null and tr.starter = 0
    left join members m on m.tree_id = t.tree_id and m.user_id = ${viewer}
    join json_table(t.rest, '$.meeting[*]' columns (kind varchar(20) path '$.kind', day varchar(10) path '$.day')) b
      on b.kind = 'begins' and b.day between ${addDays(day, -1)} and ${addDays(day, 1)}
    where t.meets = 1 and t.removed = 0 limit 2000`)) as unknown as [Row[]]
  return rows
}

/** Accounts that somebody shares a tree with, themselves included. */
async function acquaintances(viewer: string): Promise<ReadonlySet<string>> {
  const [rows] = (await database().execute(
    sql`select distinct b.user_id as id from members a join members b on b.tree_id = a.tree_id where a.user_id = ${viewer}`,
  )) as unknown as [{ id: string }[]]
  return new Set([viewer, ...rows.map(({ id }) => id)])
}

/** Whoever a person is in any tree: an account by its id or its mail address, or a guest by theirs. */
async function identities(
  trees: readonly (readonly [Tree, string])[],
): Promise<(tree: Tree, meeting: string) => Map<string, string>> {
  const mails = new Set<string>()
  for (const [tree, id] of trees)
    for (const { user, mail } of briefOf(topicOf(tree, id)).people)
      if (user === null && mail) mails.add(mail.toLowerCase())
  const rows =
    mails.size === 0
      ? []
      : await database()
          .select({ id: users.id, email: users.email, confirmedAt: users.confirmedAt })
          .from(users)
          .where(inArray(users.email, [...mails]))
  const account = new Map(rows.filter(isConfirmed).map(row => [row.email.toLowerCase(), row.id]))
  return (tree, meeting) =>
    new Map(
      briefOf(topicOf(tree, meeting)).people.flatMap(({ id, user, mail }) => {
        const who = user ?? (mail ? (account.get(mail.toLowerCase()) ?? mail.toLowerCase()) : null)
        return who === null ? [] : [[who, id] as const]
      }),
    )
}

/**
 * People of a meeting (by their ids in its brief) who are in another meeting at the same time, with its title; trees
 * that the viewer has no role in say no more than that there is one, and that only of people whom the viewer shares a tree
 * with. Whoever declined one of the two isn't in it.
 */
export async function elsewhereOf(
  treeId: string,
  tree: Tree,
  meeting: string,
  viewer: string,
): Promise<Map<string, string>> {
  const brief = briefOf(topicOf(tree, meeting))
  const start = instantOfStart(brief)
  if (start === null || !brief.begins) return new Map()
  const end = start + lengthOfMeeting(tree, meeting) * 60_000
  const others: { tree: Tree; id: string; mine: boolean }[] = []
  for (const { treeId: other, id, version, mine } of await meetingsAround(brief.begins.day, viewer)) {
    if (other === treeId && id === meeting) continue
    const held = other === treeId ? { tree } : await readTree(other, version)
    if (!held?.tree.topics.has(id) || !isLive(held.tree, id)) continue
    const its = briefOf(topicOf(held.tree, id))
    const from = instantOfStart(its)
    if (from === null || its.stage === 'cancelled' || its.stage === 'ended') continue
    if (from < end && from + lengthOfMeeting(held.tree, id) * 60_000 > start)
      others.push({ tree: held.tree, id, mine: Boolean(mine) })
  }
  const peopleIn = await identities([[tree, meeting], ...others.map(other => [other.tree, other.id] as const)])
  const here = peopleIn(tree, meeting)
  const acquainted = await acquaintances(viewer)
  const found = new Map<string, string>()
  for (const other of others) {
    const declined = new Set(
      briefOf(topicOf(other.tree, other.id))
        .people.filter(({ answer }) => answer === 'declined')
        .map(({ id }) => id),
    )
    for (const [who, theirs] of peopleIn(other.tree, other.id)) {
      const ours = here.get(who)
      if (
        ours !== undefined &&
        (other.mine || acquainted.has(who)) &&
        !declined.has(theirs) &&
        brief.people.find(({ id }) => id === ours)?.answer !== 'declined'
      )
        found.set(ours, other.mine ? topicOf(other.tree, other.id).title || 'untitled' : 'another meeting')
    }
  }
  return found
}
