import { and, desc, eq, isNotNull, isNull, ne } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { Role } from '#core/contract'
import { BLANK, countTopics, emptyTree, type Tree } from '#core/tree'
import { database } from '../database/connect'
import { members, snapshots, trees, users } from '../database/schema'
import { packSnapshot } from './held'
import { writeWholeTree } from './rows'

export interface Listed {
  id: string
  title: string
  role: Role
  topicCount: number
  version: number
  seenVersion: number
  changedAt: string
  changedBy: string | null
  trashed: boolean
}

export async function listTrees(userId: string, scope: 'all' | 'mine' | 'shared' | 'trash'): Promise<Listed[]> {
  const conditions = [
    eq(members.userId, userId),
    scope === 'trash' ? isNotNull(trees.trashedAt) : isNull(trees.trashedAt),
    ...(scope === 'mine' || scope === 'trash' ? [eq(members.role, 'owner')] : []),
    ...(scope === 'shared' ? [ne(members.role, 'owner')] : []),
  ]
  const rows = await database().select({ tree: trees, role: members.role, seenVersion: members.seenVersion, changedBy: users.name }).from(members)
    .innerJoin(trees, eq(trees.id, members.treeId)).leftJoin(users, eq(users.id, trees.changedBy))
    .where(and(...conditions)).orderBy(desc(trees.changedAt)).limit(2000)
  return rows.map(({ tree, role, seenVersion, changedBy }) => ({
    id: tree.id, title: tree.title, role, topicCount: tree.topicCount, version: tree.version, seenVersion,
    changedAt: tree.changedAt.toISOString(), changedBy, trashed: tree.trashedAt !== null,
  }))
}

export function newTree(title: string, arrangement: 'both' | 'right'): Tree {
  const tree = emptyTree({ ...BLANK, id: nanoid(12), parent: null, order: 'a0', title })
  tree.fields = { ...tree.fields, arrangement }
  return tree
}

/** Stores a whole tree as number 0 of a new one, all or nothing, and makes the person its owner. */
export async function storeTree(tree: Tree, ownerId: string, others: readonly { userId: string, role: Role }[] = []): Promise<string> {
  const id = nanoid(16)
  const at = new Date()
  await database().transaction(async (tx) => {
    await tx.insert(trees).values({
      id, centre: tree.centre, title: tree.topics.get(tree.centre)!.title, fields: tree.fields, version: 0,
      topicCount: countTopics(tree), createdAt: at, changedAt: at, changedBy: ownerId,
    })
    await tx.insert(members).values([{ treeId: id, userId: ownerId, role: 'owner' as Role, seenAt: at }, ...others.map(other => ({ treeId: id, ...other }))])
    await tx.insert(snapshots).values({ treeId: id, number: 0, data: await packSnapshot(tree) })
    await writeWholeTree(tx, id, tree)
  })
  return id
}

export async function peopleOf(treeId: string): Promise<{ id: string, name: string, email: string, role: Role }[]> {
  return database().select({ id: users.id, name: users.name, email: users.email, role: members.role }).from(members)
    .innerJoin(users, eq(users.id, members.userId)).where(eq(members.treeId, treeId)).orderBy(users.name)
}

export async function setTrashed(treeId: string, trashed: boolean): Promise<void> {
  await database().update(trees).set({ trashedAt: trashed ? new Date() : null }).where(eq(trees.id, treeId))
}

