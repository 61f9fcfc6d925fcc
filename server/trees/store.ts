import { and, desc, eq, isNotNull, isNull, ne, or, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { Role, TreeMember } from '#core/contract'
import { countTopics, giveBranchHues, giveSplits, type Tree } from '#core/tree'
import { database } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { likeAnywhere } from '../database/like'
import { members, snapshots, trees, users } from '../database/schema'
import { packSnapshot } from './held'
import { writeWholeTree } from './rows'

export interface Listed {
  id: string
  title: string
  description: string
  tags: readonly string[]
  role: Role
  topicCount: number
  version: number
  seenVersion: number
  /** Whether others have changed it since one last looked. */
  news: boolean
  changedAt: string
  createdAt: string
  changedBy: string | null
  trashed: boolean
  starter: boolean
}

/**
 * Trees somebody has a role in, those changed last first. Text is looked for in titles, descriptions, tags and topics,
 * without case and accents.
 */
export async function listTrees(
  userId: string,
  {
    scope,
    text,
    tag,
  }: { scope: 'all' | 'mine' | 'shared' | 'trash' | 'starters'; text?: string | undefined; tag?: string | undefined },
): Promise<Listed[]> {
  const like = likeAnywhere(text)
  const conditions = [
    eq(members.userId, userId),
    scope === 'trash' ? isNotNull(trees.trashedAt) : isNull(trees.trashedAt),
    ...(scope === 'trash' ? [] : [eq(trees.starter, scope === 'starters')]),
    ...(scope === 'mine' || scope === 'trash' ? [eq(members.role, 'owner')] : []),
    ...(scope === 'shared' ? [ne(members.role, 'owner')] : []),
    ...(tag ? [sql`json_contains(json_extract(${trees.fields}, '$.tags'), ${JSON.stringify(tag)})`] : []),
    ...(like
      ? [
          or(
            sql`${trees.title} like ${like}`,
            sql`json_value(${trees.fields}, '$.description') like ${like}`,
            sql`json_search(lower(json_extract(${trees.fields}, '$.tags')), 'one', lower(${like})) is not null`,
            sql`exists (select 1 from topics where topics.tree_id = ${trees.id} and topics.removed = 0 and topics.title like ${like})`,
          ),
        ]
      : []),
  ]
  // One's own edits are no news.
  const news = sql<number>`exists (select 1 from edits where edits.tree_id = ${trees.id} and edits.number > ${members.seenVersion} and edits.user_id <> ${userId})`
  const rows = await database()
    .select({ tree: trees, role: members.role, seenVersion: members.seenVersion, changedBy: users.name, news })
    .from(members)
    .innerJoin(trees, eq(trees.id, members.treeId))
    .leftJoin(users, eq(users.id, trees.changedBy))
    .where(and(...conditions))
    .orderBy(desc(trees.changedAt))
    .limit(2000)
  return rows.map(({ tree, role, seenVersion, changedBy, news }) => ({
    id: tree.id,
    title: tree.title,
    description: tree.fields.description ?? '',
    tags: tree.fields.tags ?? [],
    role,
    topicCount: tree.topicCount,
    version: tree.version,
    seenVersion,
    news: Boolean(news),
    changedAt: tree.changedAt.toISOString(),
    createdAt: tree.createdAt.toISOString(),
    changedBy,
    trashed: tree.trashedAt !== null,
    starter: tree.starter,
  }))
}

/** Stores a whole tree as number 0 of a new one, all or nothing, and makes the person its owner. */
export async function storeTree(
  tree: Tree,
  ownerId: string,
  {
    others = [],
    starter = false,
    from = null,
  }: {
    readonly others?: readonly { userId: string; role: Role }[]
    readonly starter?: boolean
    /** What it's a copy of. */
    readonly from?: { readonly tree: string; readonly number: number } | null
  } = {},
): Promise<string> {
  giveBranchHues(tree)
  giveSplits(tree)
  const id = nanoid(16)
  const at = new Date()
  const data = await packSnapshot(tree)
  await inTransaction(async tx => {
    await tx
      .insert(trees)
      .values({
        id,
        centre: tree.centre,
        title: tree.topics.get(tree.centre)!.title,
        fields: tree.fields,
        version: 0,
        topicCount: countTopics(tree),
        createdAt: at,
        changedAt: at,
        changedBy: ownerId,
        starter,
        fromTree: from?.tree ?? null,
        fromNumber: from?.number ?? null,
      })
    await tx
      .insert(members)
      .values([
        { treeId: id, userId: ownerId, role: 'owner' as Role, seenAt: at },
        ...others.map(other => ({ treeId: id, ...other })),
      ])
    await tx.insert(snapshots).values({ treeId: id, number: 0, data })
    await writeWholeTree(tx, id, tree)
  })
  return id
}

export async function peopleOf(treeId: string): Promise<TreeMember[]> {
  const rows = await database()
    .select({
      id: users.id,
      name: users.name,
      email: users.email,
      role: members.role,
      picture: sql<number>`${users.picture} is not null`,
      square: users.square,
    })
    .from(members)
    .innerJoin(users, eq(users.id, members.userId))
    .where(eq(members.treeId, treeId))
    .orderBy(users.name)
  return rows.map(row => ({ ...row, picture: Boolean(Number(row.picture)) }))
}

/** The number up to which somebody has seen a tree. */
export async function seenBy(treeId: string, userId: string): Promise<number> {
  const [row] = await database()
    .select({ seen: members.seenVersion })
    .from(members)
    .where(and(eq(members.treeId, treeId), eq(members.userId, userId)))
  return row?.seen ?? 0
}

export async function setTrashed(treeId: string, trashed: boolean): Promise<void> {
  await database()
    .update(trees)
    .set({ trashedAt: trashed ? new Date() : null })
    .where(eq(trees.id, treeId))
}
