import { Readable } from 'node:stream'
import { promisify } from 'node:util'
import { createGunzip, gunzip, gzip } from 'node:zlib'
import { and, desc, eq, lte, sql } from 'drizzle-orm'
import { EDIT_FORMAT, fromSnapshot, type Snapshot, toSnapshot, type Tree } from '#core/tree'
import { bus } from '../bus'
import { database, type Database, type Transaction } from '../database/connect'
import { snapshots, trees } from '../database/schema'
import { LiveTree } from './live-tree'
import { readLog } from './log'
import { checkWholeWeight } from './weights'

/*
 * Trees kept in memory so that an edit needn't read them again. Each is brought up to the number that the database has
 * before anything is decided from it.
 */

/** Topics, and bytes, held at most over all trees; the trees used longest ago go first. */
const MOST_TOPICS = 400_000
const MOST_BYTES = 256 * 1024 * 1024

const held = new Map<string, LiveTree>()

const zip = promisify(gzip)
const unzip = promisify(gunzip)

/** A whole tree as it's stored. Throws `Refused` when it, or something in it, is heavier than it may be. */
export async function packSnapshot(tree: Tree): Promise<Buffer> {
  const text = Buffer.from(JSON.stringify(toSnapshot(tree)))
  checkWholeWeight(tree.topics.values(), text.length)
  return zip(text, { level: 1 })
}

/** What `packSnapshot` stored, its bytes, and whether they are what would be written now. */
export async function unpackSnapshot(data: Buffer): Promise<{ tree: Tree; bytes: Buffer; asNow: boolean }> {
  return read(await unzip(data))
}

function read(bytes: Buffer): { tree: Tree; bytes: Buffer; asNow: boolean } {
  const snapshot = JSON.parse(bytes.toString()) as Snapshot
  return { tree: fromSnapshot(snapshot), bytes, asNow: snapshot.format === EDIT_FORMAT }
}

/** Packed bytes that are read at a time: a heavy snapshot never stands in memory twice over on its way. */
const PIECE = 4 * 1024 * 1024

/** A snapshot's bytes, unpacked. */
async function readPacked(db: Database | Transaction, treeId: string, number: number, size: number): Promise<Buffer> {
  const piece = async (from: number, count: number): Promise<Buffer> => {
    const [row] = await db
      .select({ data: sql<Buffer>`substring(${snapshots.data}, ${from + 1}, ${count})` })
      .from(snapshots)
      .where(and(eq(snapshots.treeId, treeId), eq(snapshots.number, number)))
    return row!.data
  }
  if (size <= PIECE) return unzip(await piece(0, size))
  // The last four bytes of gzip are the length unpacked (RFC 1952, section 2.3.1).
  const whole = Buffer.allocUnsafe((await piece(size - 4, 4)).readUInt32LE())
  async function* pieces(): AsyncGenerator<Buffer> {
    for (let from = 0; from < size; from += PIECE) yield await piece(from, PIECE)
  }
  let at = 0
  for await (const chunk of Readable.from(pieces()).pipe(createGunzip())) {
    ;(chunk as Buffer).copy(whole, at)
    at += (chunk as Buffer).length
  }
  return whole
}

/** The tree at `version`, from the newest snapshot before it and the edits after that. Undefined when there is no such tree. */
export async function loadTree(
  db: Database | Transaction,
  treeId: string,
  version = 2 ** 31 - 1,
): Promise<LiveTree | undefined> {
  const [base] = await db
    .select({ number: snapshots.number, size: sql<number>`length(${snapshots.data})`, epoch: trees.epoch })
    .from(snapshots)
    .innerJoin(trees, eq(trees.id, snapshots.treeId))
    .where(and(eq(snapshots.treeId, treeId), lte(snapshots.number, version)))
    .orderBy(desc(snapshots.number))
    .limit(1)
  if (!base) return undefined
  const { tree, bytes, asNow } = read(await readPacked(db, treeId, base.number, Number(base.size)))
  const live = new LiveTree(treeId, tree, base.number, base.epoch, bytes.length)
  if (asNow) live.wasRead(bytes)
  await catchUp(db, live, version)
  return live
}

async function catchUp(db: Database | Transaction, live: LiveTree, version: number): Promise<void> {
  for (const edit of await readLog(db, live.id, live.version, { until: version })) live.catchUp(edit)
}

/** The tree as it's held, without asking the database. */
export function heldNow(treeId: string): LiveTree | undefined {
  return held.get(treeId)
}

/** The tree as it's stored at `version` or later, for showing to somebody: never with edits that may yet fail. */
export async function readTree(treeId: string, version: number, epoch?: string): Promise<LiveTree | undefined> {
  // After a restore the numbers mean other edits.
  if (epoch !== undefined && held.has(treeId) && held.get(treeId)!.epoch !== epoch) letGo(treeId)
  const live = held.get(treeId)
  await live?.settled()
  return live && live.version >= version && held.get(treeId) === live ? live : holdTree(database(), treeId, version)
}

/** The held tree brought to `version`, which the caller has just read. */
export async function holdTree(
  db: Database | Transaction,
  treeId: string,
  version: number,
): Promise<LiveTree | undefined> {
  let live = held.get(treeId)
  if (live && (live.version > version || live.isOpen)) return live
  if (!live) live = await loadTree(db, treeId, version)
  else if (live.version < version) await catchUp(db, live, version)
  if (!live) return undefined
  const other = held.get(treeId)
  // Somebody else may have loaded it in the meantime; all must work on the same one.
  if (other && other !== live) return other.version >= version ? other : holdTree(db, treeId, version)
  held.delete(treeId)
  held.set(treeId, live)
  if (!other) makeRoom(treeId)
  return live
}

function makeRoom(keep: string): void {
  let topics = 0
  let bytes = 0
  for (const live of held.values()) {
    topics += live.tree.topics.size
    bytes += live.weight
  }
  for (const [id, live] of held) {
    if (topics <= MOST_TOPICS && bytes <= MOST_BYTES) break
    if (id === keep || live.isOpen) continue
    topics -= live.tree.topics.size
    bytes -= live.weight
    held.delete(id)
  }
}

/** Forgets a tree whose copy can't be trusted any more. */
export function letGo(treeId: string): void {
  held.delete(treeId)
}

bus.hear(word => {
  if (word.about === 'rights') held.get(word.tree)?.roles.clear()
})

/** After this many changes, or bytes, a snapshot is stored, so that opening any moment reads few edits and light ones. */
const SNAPSHOT_EVERY = 500
const SNAPSHOT_EVERY_BYTES = 4 * 1024 * 1024
/** Of a heavy tree only once so much of it is new: storing it takes as long as it's heavy. */
const SNAPSHOT_SHARE = 0.2

export async function snapshotWhenDue(live: LiveTree): Promise<void> {
  const heavy = live.unsavedBytes > Math.max(SNAPSHOT_EVERY_BYTES, live.weight * SNAPSHOT_SHARE)
  if ((live.unsaved < SNAPSHOT_EVERY && !heavy) || live.isOpen) return
  live.unsaved = live.unsavedBytes = 0
  const number = live.version
  const data = await zip(live.snapshotBytes(), { level: 1 })
  // Meanwhile a text may have been taken out for good.
  if (held.get(live.id) !== live) return
  await database().insert(snapshots).ignore().values({ treeId: live.id, number, data })
}
