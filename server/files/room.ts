import { eq, sql } from 'drizzle-orm'
import type { Transaction } from '../database/connect'
import { files } from '../database/schema'
import { settings } from '../settings'

const GB = 1024 ** 3

/** Whether so many bytes more fit into what the files of a tree, and those that a person put anywhere, may take. */
export async function hasRoom(tx: Transaction, treeId: string, userId: string, bytes: number): Promise<boolean> {
  const { TREE_FILES_GB, PERSON_FILES_GB } = settings()
  for (const [where, most] of [
    [eq(files.treeId, treeId), TREE_FILES_GB],
    [eq(files.createdBy, userId), PERSON_FILES_GB],
  ] as const) {
    const [used] = await tx
      .select({ bytes: sql<string | null>`sum(${files.size})` })
      .from(files)
      .where(where)
    if (Number(used?.bytes ?? 0) + bytes > most * GB) return false
  }
  return true
}
