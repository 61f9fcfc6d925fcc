import { and, eq } from 'drizzle-orm'
import { allows, type Role } from '#core/contract'
import { database } from '../database/connect'
import { members, trees } from '../database/schema'
import { Fault } from './fault'

/** The role somebody has on a tree right now; null for none. `trashed` trees are open to their owners alone. */
export async function roleOn(
  treeId: string,
  userId: string,
): Promise<{ role: Role; version: number; epoch: string; trashed: boolean } | null> {
  const [row] = await database()
    .select({ role: members.role, version: trees.version, epoch: trees.epoch, trashedAt: trees.trashedAt })
    .from(members)
    .innerJoin(trees, eq(trees.id, members.treeId))
    .where(and(eq(members.treeId, treeId), eq(members.userId, userId)))
  return row ? { role: row.role, version: row.version, epoch: row.epoch, trashed: row.trashedAt !== null } : null
}

/**
 * Refuses unless the person has `needed` or more. A tree one may not see is told apart from a missing one by nothing.
 */
export async function needRole(
  treeId: string,
  userId: string,
  needed: Role,
): Promise<{ role: Role; version: number; epoch: string; trashed: boolean }> {
  const found = await roleOn(treeId, userId)
  if (!found || (found.trashed && found.role !== 'owner'))
    throw new Fault(404, 'no-tree', 'There is no such tree, or you have no role in it.')
  if (!allows(found.role, needed)) throw new Fault(403, 'role', `This needs the role ${needed}; you are ${found.role}.`)
  return found
}
