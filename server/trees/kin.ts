import { and, desc, eq, isNull, ne } from 'drizzle-orm'
import type { Kin } from '#core/contract'
import { roleOn } from '../access/roles'
import { database } from '../database/connect'
import { members, trees } from '../database/schema'

/*
 * Trees that come from one copy. A copy keeps the addresses of its topics, the centre's too, and knows which tree it was copied
 * from at which number.
 */

/** Copies of copies that are followed, at most. */
const GENERATIONS = 12
const MOST = 200

/** Trees somebody may see that have the centre of this one. */
export async function kinOf(treeId: string, userId: string): Promise<Kin[]> {
  const [own] = await database().select({ centre: trees.centre }).from(trees).where(eq(trees.id, treeId))
  const rows = await database()
    .select({
      id: trees.id,
      title: trees.title,
      role: members.role,
      changedAt: trees.changedAt,
      starter: trees.starter,
    })
    .from(trees)
    .innerJoin(members, and(eq(members.treeId, trees.id), eq(members.userId, userId)))
    .where(and(eq(trees.centre, own?.centre ?? ''), ne(trees.id, treeId), isNull(trees.trashedAt)))
    .orderBy(desc(trees.changedAt))
    .limit(MOST)
  return rows.map(row => ({ ...row, changedAt: row.changedAt.toISOString() }))
}

/** A tree up to a number: what two trees have in common. */
export interface Point {
  readonly tree: string
  readonly number: number
}

/** A tree's forebears with the number up to which each is one, the tree itself first. */
async function lineOf(own: Point): Promise<Point[]> {
  const line = [own]
  while (line.length < GENERATIONS) {
    const [row] = await database()
      .select({ tree: trees.fromTree, number: trees.fromNumber })
      .from(trees)
      .where(eq(trees.id, line.at(-1)!.tree))
    if (!row?.tree || row.number === null || line.some(({ tree }) => tree === row.tree)) break
    line.push({ tree: row.tree, number: row.number })
  }
  return line
}

/**
 * The common moment of two trees, for each side the state that it began from: the newest tree that both come from, at the
 * older of the two numbers. A tree that was copied from right there began as its own copy was. Null when they have none, or when
 * the person may not see it.
 */
export async function commonPoints(a: Point, b: Point, userId: string): Promise<{ a: Point; b: Point } | null> {
  const [lineA, lineB] = [await lineOf(a), await lineOf(b)]
  const found = lineA.find(({ tree }) => lineB.some(other => other.tree === tree))
  if (!found) return null
  const other = lineB.find(({ tree }) => tree === found.tree)!
  const common: Point = { tree: found.tree, number: Math.min(found.number, other.number) }
  if (common.tree !== a.tree && common.tree !== b.tree && !(await maySee(common.tree, userId))) return null
  const began = ([own, copiedFrom]: readonly Point[]): Point =>
    copiedFrom?.tree === common.tree && copiedFrom.number === common.number ? { tree: own!.tree, number: 0 } : common
  return { a: began(lineA), b: began(lineB) }
}

async function maySee(treeId: string, userId: string): Promise<boolean> {
  const found = await roleOn(treeId, userId)
  return found !== null && (!found.trashed || found.role === 'owner')
}
