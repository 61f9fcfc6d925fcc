import { createHash } from 'node:crypto'
import { and, asc, eq, sql } from 'drizzle-orm'
import { database } from '../database/connect'
import { fileChunks, files } from '../database/schema'

/** Bytes in one row; well under the database's largest packet. */
const CHUNK = 512 * 1024
/** What all files of one tree may take together. */
const MOST_BYTES = 500 * 1024 * 1024

export interface StoredFile { readonly id: string, readonly type: string, readonly size: number, readonly width: number | null, readonly height: number | null }

/** Keeps a file with a tree, all or nothing. The same bytes are stored once. False when the tree's room is used up. */
export async function storeFile(treeId: string, userId: string, data: Buffer, about: { type: string, width?: number, height?: number }): Promise<StoredFile | null> {
  const id = createHash('sha256').update(data).digest('hex')
  const row = { treeId, id, type: about.type, size: data.length, width: about.width ?? null, height: about.height ?? null, createdAt: new Date(), createdBy: userId }
  const fits = await database().transaction(async (tx) => {
    const [used] = await tx.select({ bytes: sql<string | null>`sum(${files.size})` }).from(files).where(eq(files.treeId, treeId))
    if (Number(used?.bytes ?? 0) + data.length > MOST_BYTES) return false
    await tx.insert(files).ignore().values(row)
    for (let number = 0; number * CHUNK < data.length; number++) await tx.insert(fileChunks).ignore().values({ id, number, data: data.subarray(number * CHUNK, (number + 1) * CHUNK) })
    return true
  })
  return fits ? row : null
}

export async function readFileOf(treeId: string, id: string): Promise<{ file: StoredFile, data: Buffer } | undefined> {
  const [file] = await database().select().from(files).where(and(eq(files.treeId, treeId), eq(files.id, id)))
  if (!file) return undefined
  const chunks = await database().select({ data: fileChunks.data }).from(fileChunks).where(eq(fileChunks.id, id)).orderBy(asc(fileChunks.number))
  return { file, data: Buffer.concat(chunks.map(chunk => chunk.data)) }
}

/** Gives a copied tree the files of the one it was copied from. */
export async function shareFiles(from: string, to: string): Promise<void> {
  const rows = await database().select().from(files).where(eq(files.treeId, from))
  for (let i = 0; i < rows.length; i += 500) await database().insert(files).ignore().values(rows.slice(i, i + 500).map(row => ({ ...row, treeId: to })))
}
