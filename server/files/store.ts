import { createHash } from 'node:crypto'
import { and, asc, eq, gte, inArray, lte } from 'drizzle-orm'
import { database } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { hasRoom } from './room'
import { fileChunks, files } from '../database/schema'

/** Bytes in one row; well under the database's largest packet. */
export const CHUNK = 512 * 1024

export interface StoredFile {
  readonly id: string
  readonly type: string
  readonly size: number
  readonly width: number | null
  readonly height: number | null
}

/** Keeps a file with a tree, all or nothing. The same bytes are stored once. False when the tree's room is used up. */
export async function storeFile(
  treeId: string,
  userId: string,
  data: Buffer,
  about: { type: string; width?: number; height?: number },
): Promise<StoredFile | null> {
  const id = createHash('sha256').update(data).digest('hex')
  const row = {
    treeId,
    id,
    type: about.type,
    size: data.length,
    width: about.width ?? null,
    height: about.height ?? null,
    createdAt: new Date(),
    createdBy: userId,
  }
  const fits = await inTransaction(async tx => {
    if (!(await hasRoom(tx, treeId, userId, data.length))) return false
    await tx.insert(files).ignore().values(row)
    for (let number = 0; number * CHUNK < data.length; number++)
      await tx
        .insert(fileChunks)
        .ignore()
        .values({ id, number, data: data.subarray(number * CHUNK, (number + 1) * CHUNK) })
    return true
  })
  return fits ? row : null
}

export async function findFile(treeId: string, id: string): Promise<StoredFile | undefined> {
  const [file] = await database()
    .select()
    .from(files)
    .where(and(eq(files.treeId, treeId), eq(files.id, id)))
  return file
}

/** Chunks read from the database at a time. */
const AT_ONCE = 4

/** The bytes of a file from one place to another (both included; all of it without), a few chunks at a time. */
export async function* readChunks(id: string, from = 0, to = Number.MAX_SAFE_INTEGER): AsyncGenerator<Buffer> {
  const last = Math.floor(to / CHUNK)
  for (let first = Math.floor(from / CHUNK); first <= last; first += AT_ONCE) {
    const rows = await database()
      .select({ number: fileChunks.number, data: fileChunks.data })
      .from(fileChunks)
      .where(
        and(
          eq(fileChunks.id, id),
          gte(fileChunks.number, first),
          lte(fileChunks.number, Math.min(last, first + AT_ONCE - 1)),
        ),
      )
      .orderBy(asc(fileChunks.number))
    for (const { number, data } of rows) {
      const start = number * CHUNK
      yield data.subarray(Math.max(0, from - start), Math.min(data.length, to - start + 1))
    }
    if (rows.length < AT_ONCE) return
  }
}

/** Gives a tree the files of another one, or some of them. */
export async function shareFiles(from: string, to: string, only?: readonly string[]): Promise<void> {
  const rows =
    only?.length === 0
      ? []
      : await database()
          .select()
          .from(files)
          .where(and(eq(files.treeId, from), ...(only ? [inArray(files.id, [...only])] : [])))
  for (let i = 0; i < rows.length; i += 500)
    await database()
      .insert(files)
      .ignore()
      .values(rows.slice(i, i + 500).map(row => ({ ...row, treeId: to })))
}
