import { asc, eq, inArray } from 'drizzle-orm'
import { database, type Transaction } from '../database/connect'
import { madeChunks } from '../database/schema'
import { CHUNK } from '../files/store'

/* The bytes of what was made, and of people's own templates, in pieces that the database takes. */

export async function writeMadeChunks(tx: Transaction, id: string, data: Buffer): Promise<void> {
  for (let number = 0; number * CHUNK < data.length; number++)
    await tx.insert(madeChunks).values({ id, number, data: data.subarray(number * CHUNK, (number + 1) * CHUNK) })
}

export async function readMadeChunks(id: string): Promise<Buffer> {
  const rows = await database()
    .select({ data: madeChunks.data })
    .from(madeChunks)
    .where(eq(madeChunks.id, id))
    .orderBy(asc(madeChunks.number))
  return Buffer.concat(rows.map(({ data }) => data))
}

export async function dropMadeChunks(tx: Transaction, ids: readonly string[]): Promise<void> {
  if (ids.length > 0) await tx.delete(madeChunks).where(inArray(madeChunks.id, [...ids]))
}
