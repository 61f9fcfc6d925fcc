import { and, asc, eq } from 'drizzle-orm'
import { idsOf } from '#core/access/groups'
import type { OwnGroup } from '#core/contract'
import { asksFor, type Query } from '#core/find/conditions'
import { GROUP_LIMITS, type PeopleGroup } from '#core/tree'
import { database } from '../database/connect'
import { ownGroups } from '../database/schema'
import { inTransaction } from '../database/transaction'
import { peopleOf } from '../trees/store'
import { Fault } from './fault'

/** A person's own groups, by name. */
export async function ownGroupsOf(userId: string): Promise<OwnGroup[]> {
  const rows = await database()
    .select({ id: ownGroups.id, name: ownGroups.name, who: ownGroups.who, shared: ownGroups.shared })
    .from(ownGroups)
    .where(eq(ownGroups.userId, userId))
    .orderBy(asc(ownGroups.name), asc(ownGroups.id))
  return rows.map(row => ({ ...row, who: [...row.who] }))
}

/** Keeps one as it is given, in place of what had its id. Throws `too-many`. */
export async function keepOwnGroup(userId: string, { id, name, who, shared }: OwnGroup): Promise<OwnGroup> {
  const kept = { name, who: [...new Set(who)], shared }
  await inTransaction(async tx => {
    const rows = await tx.select({ id: ownGroups.id }).from(ownGroups).where(eq(ownGroups.userId, userId)).for('update')
    if (rows.length >= GROUP_LIMITS.groups && !rows.some(row => row.id === id))
      throw new Fault(409, 'too-many', `One keeps ${GROUP_LIMITS.groups} groups at most. Remove one of them first.`)
    await tx
      .insert(ownGroups)
      .values({ userId, id, ...kept })
      .onDuplicateKeyUpdate({ set: kept })
  })
  return { id, ...kept }
}

/** Forgets one; forgotten already is well. */
export async function dropOwnGroup(userId: string, id: string): Promise<void> {
  await database()
    .delete(ownGroups)
    .where(and(eq(ownGroups.userId, userId), eq(ownGroups.id, id)))
}

/** Who is in which group, by account, where a filter asks for it: the tree's groups, and those of whoever asks. */
export async function groupsFor(
  treeId: string,
  groups: readonly PeopleGroup[],
  query: Query | null,
  person: string,
): Promise<Readonly<Record<string, readonly string[]>>> {
  if (!query || !asksFor(query, 'groups')) return {}
  const [people, own] = await Promise.all([peopleOf(treeId), ownGroupsOf(person)])
  // The tree's own come last, so that they count where both have an id.
  return Object.fromEntries([...own, ...groups].map(({ id, who }) => [id, idsOf(who, people)]))
}
