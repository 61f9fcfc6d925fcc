import { and, eq, inArray, sql } from 'drizzle-orm'
import { bus } from '../bus'
import { database } from '../database/connect'
import { inTransaction } from '../database/transaction'
import {
  accessTokens,
  accountLinks,
  calendarAddresses,
  invitations,
  letters,
  members,
  madeChunks,
  openedFiles,
  organisationAccounts,
  ownGroups,
  ownTemplates,
  ownViews,
  readItems,
  tellings,
  tellingWays,
  trees,
  users,
  watches,
} from '../database/schema'
import { writeAccess } from './access-log'
import { Fault } from './fault'
import { endAllSessions } from './sessions'

/** A tree that somebody alone owns, and who else has a role in it. */
export interface SoleTree {
  readonly id: string
  readonly title: string
  readonly people: readonly { readonly id: string; readonly name: string }[]
}

/** Trees, those in the trash apart, that have no other owner. */
export async function soleTrees(userId: string): Promise<SoleTree[]> {
  const rows = await database()
    .select({ id: trees.id, title: trees.title })
    .from(members)
    .innerJoin(trees, eq(trees.id, members.treeId))
    .where(
      and(
        eq(members.userId, userId),
        eq(members.role, 'owner'),
        sql`${trees.trashedAt} is null`,
        sql`not exists (select 1 from members o where o.tree_id = ${trees.id} and o.role = 'owner' and o.user_id <> ${userId})`,
      ),
    )
    .orderBy(trees.title)
  if (rows.length === 0) return []
  const others = await database()
    .select({ tree: members.treeId, id: users.id, name: users.name })
    .from(members)
    .innerJoin(users, eq(users.id, members.userId))
    .where(
      inArray(
        members.treeId,
        rows.map(({ id }) => id),
      ),
    )
  return rows.map(row => ({
    ...row,
    people: others.filter(({ tree, id }) => tree === row.id && id !== userId).map(({ id, name }) => ({ id, name })),
  }))
}

/**
 * Deletes an account. What they did in trees stays, under "a former member". `to` says of each tree that nobody else owns who has
 * it from now on, null for the trash. Throws `undecided` when one isn't named, or is given to somebody who isn't in it.
 */
export async function deleteAccount(userId: string, to: Readonly<Record<string, string | null>>): Promise<void> {
  const touched = await inTransaction(async tx => {
    const mine = await tx.select().from(members).where(eq(members.userId, userId)).for('update')
    const [user] = await tx.select().from(users).where(eq(users.id, userId))
    for (const { treeId, role } of mine) {
      if (role !== 'owner') continue
      const others = await tx.select().from(members).where(eq(members.treeId, treeId)).for('update')
      if (others.some(one => one.role === 'owner' && one.userId !== userId)) continue
      const [tree] = await tx.select({ trashed: trees.trashedAt }).from(trees).where(eq(trees.id, treeId))
      if (tree?.trashed) continue
      const heir = to[treeId]
      if (heir === undefined || (heir !== null && !others.some(one => one.userId === heir && heir !== userId)))
        throw new Fault(409, 'undecided', 'Say of each tree that only you own who has it from now on.', {
          tree: treeId,
        })
      if (heir === null) await tx.update(trees).set({ trashedAt: new Date() }).where(eq(trees.id, treeId))
      else {
        await tx
          .update(members)
          .set({ role: 'owner' })
          .where(and(eq(members.treeId, treeId), eq(members.userId, heir)))
        await writeAccess({ treeId, by: userId, what: 'handed-over', about: heir }, tx)
      }
    }
    for (const { treeId } of mine) await writeAccess({ treeId, by: userId, what: 'left', about: '' }, tx)
    await tx.delete(members).where(eq(members.userId, userId))
    await tx.delete(accessTokens).where(eq(accessTokens.userId, userId))
    await tx.delete(accountLinks).where(eq(accountLinks.userId, userId))
    await tx.delete(calendarAddresses).where(eq(calendarAddresses.userId, userId))
    await tx.delete(ownGroups).where(eq(ownGroups.userId, userId))
    const templates = tx.select({ id: ownTemplates.id }).from(ownTemplates).where(eq(ownTemplates.userId, userId))
    await tx.delete(madeChunks).where(inArray(madeChunks.id, templates))
    await tx.delete(ownTemplates).where(eq(ownTemplates.userId, userId))
    await tx.delete(ownViews).where(eq(ownViews.userId, userId))
    await tx.delete(tellings).where(eq(tellings.userId, userId))
    await tx.delete(tellingWays).where(eq(tellingWays.userId, userId))
    await tx.delete(watches).where(eq(watches.userId, userId))
    await tx.delete(readItems).where(eq(readItems.userId, userId))
    await tx.delete(organisationAccounts).where(eq(organisationAccounts.userId, userId))
    await tx.delete(openedFiles).where(eq(openedFiles.userId, userId))
    await tx.delete(invitations).where(eq(invitations.email, user!.email))
    await tx.delete(letters).where(eq(letters.toEmail, user!.email))
    await tx
      .update(users)
      .set({
        email: `${userId}@former.invalid`,
        name: 'A former member',
        passwordHash: '-',
        deletedAt: new Date(),
        confirmedAt: null,
        picture: null,
        zone: null,
        totpSecret: null,
        recovery: null,
      })
      .where(eq(users.id, userId))
    return mine.map(({ treeId }) => treeId)
  })
  await endAllSessions(userId)
  for (const tree of touched) bus.tell({ about: 'rights', tree })
}
