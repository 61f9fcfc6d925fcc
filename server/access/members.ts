import { and, eq } from 'drizzle-orm'
import type { Role } from '#core/contract'
import { bus } from '../bus'
import type { Transaction } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { invitations, members, openedFiles, readItems, users, watches } from '../database/schema'
import { tellRole } from '../telling/invited'
import { writeAccess } from './access-log'
import { Fault } from './fault'

/*
 * Who has a role in a tree. The rows of its members are held while one of them changes, so that two owners who give up at once
 * don't leave it without any.
 */

async function keepAnOwner(tx: Transaction, treeId: string, user: string): Promise<typeof members.$inferSelect> {
  const all = await tx.select().from(members).where(eq(members.treeId, treeId)).for('update')
  const found = all.find(one => one.userId === user)
  if (!found) throw new Fault(404, 'no-member', 'That person has no role in this tree. Invite them first.')
  if (found.role === 'owner' && !all.some(one => one.role === 'owner' && one.userId !== user))
    throw new Fault(409, 'last-owner', 'A tree needs an owner. Make somebody else owner first.')
  return found
}

/** Throws `role` when whoever asks isn't an owner any more. */
async function mustOwn(tx: Transaction, treeId: string, by: string): Promise<void> {
  const [row] = await tx
    .select({ role: members.role })
    .from(members)
    .where(and(eq(members.treeId, treeId), eq(members.userId, by)))
  if (row?.role !== 'owner') throw new Fault(403, 'role', 'Only owners say who has which role.')
}

/** Throws `no-member`, `last-owner`, `role`. */
export async function setRole(treeId: string, user: string, role: Role, by: string): Promise<void> {
  await inTransaction(async tx => {
    const where = and(eq(members.treeId, treeId), eq(members.userId, user))
    if (role === 'owner') await tx.select().from(members).where(eq(members.treeId, treeId)).for('update')
    else await keepAnOwner(tx, treeId, user)
    await mustOwn(tx, treeId, by)
    const [there] = await tx.select().from(members).where(where)
    if (!there) throw new Fault(404, 'no-member', 'That person has no role in this tree. Invite them first.')
    await tx.update(members).set({ role }).where(where)
    if (there.role !== role) await tellRole(tx, treeId, user, role, by)
    await writeAccess({ treeId, by, what: 'role', about: `${user}: ${role}` }, tx)
  })
  bus.tell({ about: 'rights', tree: treeId })
  bus.tell({ about: 'told', people: [user] })
}

/** Takes somebody out. Invitations to them, and those that they wrote, end with it. Throws as `setRole` does. */
export async function removeMember(treeId: string, user: string, by: string): Promise<void> {
  await inTransaction(async tx => {
    await keepAnOwner(tx, treeId, user)
    if (user !== by) await mustOwn(tx, treeId, by)
    await tx.delete(members).where(and(eq(members.treeId, treeId), eq(members.userId, user)))
    await tx.delete(watches).where(and(eq(watches.treeId, treeId), eq(watches.userId, user)))
    await tx.delete(readItems).where(and(eq(readItems.treeId, treeId), eq(readItems.userId, user)))
    await tx.delete(openedFiles).where(and(eq(openedFiles.treeId, treeId), eq(openedFiles.userId, user)))
    await tellRole(tx, treeId, user, null, by)
    const [person] = await tx.select({ email: users.email }).from(users).where(eq(users.id, user))
    await tx.delete(invitations).where(and(eq(invitations.treeId, treeId), eq(invitations.email, person?.email ?? '')))
    await tx.delete(invitations).where(and(eq(invitations.treeId, treeId), eq(invitations.invitedBy, user)))
    await writeAccess({ treeId, by, what: user === by ? 'left' : 'removed', about: user }, tx)
  })
  bus.tell({ about: 'rights', tree: treeId })
  bus.tell({ about: 'told', people: [user] })
}
