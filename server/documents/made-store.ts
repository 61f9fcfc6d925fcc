import { and, desc, eq, inArray, lt, sql } from 'drizzle-orm'
import { nanoid } from 'nanoid'
import type { MadeTold } from '#core/contract'
import type { Kind } from '#core/handing/choice'
import { Fault } from '../access/fault'
import { database, type Transaction } from '../database/connect'
import { inTransaction } from '../database/transaction'
import { madeFiles } from '../database/schema'
import type { Made } from './hand-out'
import { dropMadeChunks, readMadeChunks, writeMadeChunks } from './made-chunks'

/*
 * What was made of trees, kept for a day for whoever asked for it, and only for them: a long document isn't made twice because a
 * tab was closed.
 */

const KEPT_MS = 86_400_000
/** What one person has of one tree at most; the oldest makes room. */
const MOST_KEPT = 10
/** Bytes of one file at most. */
const MOST_BYTES = 64 * 1024 * 1024

const mine = (treeId: string, userId: string) => and(eq(madeFiles.treeId, treeId), eq(madeFiles.userId, userId))
const isFresh = () => sql`${madeFiles.at} > ${new Date(Date.now() - KEPT_MS)}`

/** What somebody had made of a tree within a day, the newest first. */
export async function madeOf(treeId: string, userId: string): Promise<Omit<MadeTold, 'part'>[]> {
  const rows = await database()
    .select()
    .from(madeFiles)
    .where(and(mine(treeId, userId), isFresh()))
    .orderBy(desc(madeFiles.at))
    .limit(MOST_KEPT)
  return rows.map(({ id, kind, state, name, size, said, at }) => ({
    ...{ id, name, size, said, at: at.toISOString() },
    kind: kind as Kind,
    state: state as MadeTold['state'],
    until: new Date(at.getTime() + KEPT_MS).toISOString(),
  }))
}

async function remove(ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return
  await inTransaction(async tx => {
    await tx.delete(madeFiles).where(inArray(madeFiles.id, [...ids]))
    await dropMadeChunks(tx, ids)
  })
}

/** Takes out all that was made of a tree. */
export async function removeMadeOf(tx: Transaction, treeId: string): Promise<void> {
  const rows = await tx.select({ id: madeFiles.id }).from(madeFiles).where(eq(madeFiles.treeId, treeId))
  await tx.delete(madeFiles).where(eq(madeFiles.treeId, treeId))
  await dropMadeChunks(
    tx,
    rows.map(({ id }) => id),
  )
}

/** Begins one that is being made. Returns its id, and those of the oldest of theirs, which made room. */
export async function beginMade(treeId: string, userId: string, kind: Kind): Promise<{ id: string; gone: string[] }> {
  const rows = await database()
    .select({ id: madeFiles.id })
    .from(madeFiles)
    .where(mine(treeId, userId))
    .orderBy(desc(madeFiles.at))
  const gone = rows.slice(MOST_KEPT - 1).map(one => one.id)
  await remove(gone)
  const id = nanoid(16)
  await database()
    .insert(madeFiles)
    .values({ ...{ id, treeId, userId, kind, state: 'making', name: '', type: '', size: 0, said: '' }, at: new Date() })
  return { id, gone }
}

/** Keeps what was made, all or nothing. False, and nothing kept, where it was taken away meanwhile. Throws a `Fault` for what is too large. */
export async function endMade(id: string, { name, type, bytes }: Made): Promise<boolean> {
  const size = bytes.byteLength
  if (size > MOST_BYTES)
    throw new Fault(
      413,
      'too-large',
      `It has ${(size / 1_000_000).toFixed(0)} MB, more than is kept. Hand out less of it.`,
    )
  return inTransaction(async tx => {
    const [row] = await tx.select({ id: madeFiles.id }).from(madeFiles).where(eq(madeFiles.id, id)).for('update')
    if (!row) return false
    await writeMadeChunks(tx, id, Buffer.from(bytes))
    await tx
      .update(madeFiles)
      .set({ state: 'made', name: name.slice(0, 300), type, size, at: new Date() })
      .where(eq(madeFiles.id, id))
    return true
  })
}

export async function failMade(id: string, said: string): Promise<void> {
  await database()
    .update(madeFiles)
    .set({ state: 'failed', said: said.slice(0, 500) })
    .where(and(eq(madeFiles.id, id), eq(madeFiles.state, 'making')))
}

/** One that was made for somebody, with its bytes. Throws a `Fault` where there is none. */
export async function readMade(treeId: string, userId: string, id: string): Promise<Made> {
  const [row] = await database()
    .select()
    .from(madeFiles)
    .where(and(mine(treeId, userId), eq(madeFiles.id, id), eq(madeFiles.state, 'made'), isFresh()))
  if (!row) throw new Fault(404, 'no-file', 'It isn’t kept any more, or isn’t made yet.')
  return { name: row.name, type: row.type, bytes: await readMadeChunks(id) }
}

/** Takes one away. False where there is none of theirs. */
export async function dropMade(treeId: string, userId: string, id: string): Promise<boolean> {
  const [row] = await database()
    .select({ id: madeFiles.id })
    .from(madeFiles)
    .where(and(mine(treeId, userId), eq(madeFiles.id, id)))
  if (row) await remove([id])
  return row !== undefined
}

/** Takes out what was kept for its day. */
export async function pruneMade(): Promise<void> {
  const rows = await database()
    .select({ id: madeFiles.id })
    .from(madeFiles)
    .where(lt(madeFiles.at, new Date(Date.now() - KEPT_MS)))
  await remove(rows.map(({ id }) => id))
}

/** What was being made when the app stopped, before `began`: that is said, and it can be made anew. */
export async function sayUnfinished(began: Date): Promise<void> {
  await database()
    .update(madeFiles)
    .set({ state: 'failed', said: 'Sun Porch was restarted in the middle of it. Make it anew.' })
    .where(and(eq(madeFiles.state, 'making'), lt(madeFiles.at, began)))
}
