import { inArray } from 'drizzle-orm'
import { type Brief, type BriefPerson, briefOf, isMeeting } from '#core/meeting/brief'
import { isLive, topicOf, type Topic, type Tree } from '#core/tree'
import { Fault } from '../access/fault'
import { database } from '../database/connect'
import { users } from '../database/schema'
import { readTree } from '../trees/held'

export interface Account {
  readonly id: string
  readonly name: string
  readonly email: string
}

/** A meeting of a tree as it stands at `version` or later. */
export async function openMeeting(
  treeId: string,
  topicId: string,
  version: number,
): Promise<{ tree: Tree; version: number; topic: Topic; brief: Brief }> {
  const item = await readTree(treeId, version)
  const topic = item?.tree.topics.get(topicId)
  if (!item || !topic || !isLive(item.tree, topicId))
    throw new Fault(404, 'no-topic', 'There is no such topic in this tree.')
  if (!isMeeting(topic)) throw new Fault(409, 'no-meeting', 'That topic isn’t a meeting.')
  return { tree: item.tree, version: item.version, topic: topicOf(item.tree, topicId), brief: briefOf(topic) }
}

/** Accounts by id. */
export async function accountsOf(ids: Iterable<string>): Promise<Map<string, Account>> {
  const wanted = [...new Set(ids)]
  if (wanted.length === 0) return new Map()
  const rows = await database()
    .select({ id: users.id, name: users.name, email: users.email })
    .from(users)
    .where(inArray(users.id, wanted))
  return new Map(rows.map(row => [row.id, row]))
}

export const nameFrom =
  (accounts: ReadonlyMap<string, Account>) =>
  (id: string): string =>
    accounts.get(id)?.name ?? 'Somebody'

/** Everybody that a meeting's tree names: its people, the owners of topics, who said something. */
export async function everybodyIn(tree: Tree): Promise<Map<string, Account>> {
  const ids = new Set<string>()
  for (const topic of tree.topics.values()) {
    for (const id of topic.people) ids.add(id)
    if (topic.entry?.by) ids.add(topic.entry.by)
    if (topic.meeting.length > 0) for (const { user } of briefOf(topic).people) if (user !== null) ids.add(user)
  }
  return accountsOf(ids)
}

/** Where a letter to somebody goes; null when there is no address. */
export function mailOf(person: BriefPerson, accounts: ReadonlyMap<string, Account>): string | null {
  return person.user === null ? (person.mail?.toLowerCase() ?? null) : (accounts.get(person.user)?.email ?? null)
}
