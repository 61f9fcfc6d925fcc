import { promisify } from 'node:util'
import { gunzip, gzip } from 'node:zlib'
import { and, asc, desc, eq, gt, lte } from 'drizzle-orm'
import { applyChanges, fromSnapshot, type Snapshot, toSnapshot, type Tree } from '#core/tree'
import { database, type Database, type Transaction } from '../database/connect'
import { edits, snapshots } from '../database/schema'

/*
 * Trees kept in memory so that an edit needn't read them again. A copy, never the truth: each is brought up to the
 * number that the database has, under the tree row's lock, before anything is decided from it.
 */

export interface Held {
  readonly tree: Tree
  version: number
  /** Ids of recent edits and their numbers, so that one sent twice is known without asking the database. */
  readonly recent: Map<string, number>
  /** Changes since the last stored snapshot. */
  unsaved: number
  /** While edits made here aren't stored yet; whoever reads the tree for others waits for it. */
  inFlight: Promise<void> | null
  /** The snapshot as JSON, for the next who opens the tree at the same number. */
  text: string | null
}

const RECENT = 2000
/** Topics held at most, over all trees; the trees used longest ago go first. */
const MOST_TOPICS = 400_000

const held = new Map<string, Held>()

const zip = promisify(gzip)
const unzip = promisify(gunzip)

export async function packSnapshot(tree: Tree): Promise<Buffer> {
  return zip(JSON.stringify(toSnapshot(tree)), { level: 1 })
}

/**
 * The tree at `version`, from the newest snapshot before it and the edits after that. Undefined when there is no such
 * tree.
 */
export async function loadTree(
  db: Database | Transaction,
  treeId: string,
  version = 2 ** 31 - 1,
): Promise<Held | undefined> {
  const [base] = await db
    .select()
    .from(snapshots)
    .where(and(eq(snapshots.treeId, treeId), lte(snapshots.number, version)))
    .orderBy(desc(snapshots.number))
    .limit(1)
  if (!base) return undefined
  const snapshot = JSON.parse((await unzip(base.data)).toString()) as Snapshot
  const item: Held = {
    tree: fromSnapshot(snapshot),
    version: base.number,
    recent: new Map(),
    unsaved: 0,
    inFlight: null,
    text: null,
  }
  await catchUp(db, treeId, item, version)
  return item
}

async function catchUp(db: Database | Transaction, treeId: string, item: Held, version: number): Promise<void> {
  const missed = await db
    .select({ number: edits.number, editId: edits.editId, changes: edits.changes })
    .from(edits)
    .where(and(eq(edits.treeId, treeId), gt(edits.number, item.version), lte(edits.number, version)))
    .orderBy(asc(edits.number))
  for (const edit of missed) {
    applyChanges(item.tree, edit.changes)
    note(item, edit.editId, edit.number, edit.changes.length)
  }
}

/** Remembers an applied edit. */
export function note(item: Held, editId: string, number: number, changes: number): void {
  item.version = number
  item.text = null
  item.recent.set(editId, number)
  item.unsaved += changes
  if (item.recent.size > RECENT) item.recent.delete(item.recent.keys().next().value!)
}

/** The tree as it's held, without asking the database. */
export function heldNow(treeId: string): Held | undefined {
  return held.get(treeId)
}

/** The tree as it's stored at `version` or later, for showing to somebody: never with edits that may yet fail. */
export async function readTree(treeId: string, version: number): Promise<Held | undefined> {
  const item = held.get(treeId)
  while (item?.inFlight) await item.inFlight
  return item && item.version >= version && held.get(treeId) === item ? item : holdTree(database(), treeId, version)
}

/** The snapshot of a tree that isn't in flight, as JSON. */
export function snapshotText(item: Held): string {
  item.text ??= JSON.stringify(toSnapshot(item.tree))
  return item.text
}

/** The held tree brought to `version`, which the caller has just read. */
export async function holdTree(db: Database | Transaction, treeId: string, version: number): Promise<Held | undefined> {
  let item = held.get(treeId)
  if (item && (item.version > version || item.inFlight)) return item
  if (!item) item = await loadTree(db, treeId, version)
  else if (item.version < version) await catchUp(db, treeId, item, version)
  if (!item) return undefined
  held.delete(treeId)
  held.set(treeId, item)
  let total = 0
  for (const other of held.values()) total += other.tree.topics.size
  for (const [id, other] of held) {
    if (total <= MOST_TOPICS || id === treeId) break
    total -= other.tree.topics.size
    held.delete(id)
  }
  return item
}

/** Forgets a tree whose copy can't be trusted any more. */
export function letGo(treeId: string): void {
  held.delete(treeId)
}

/** After this many changes a snapshot is stored, so that opening any moment reads few edits. */
const SNAPSHOT_EVERY = 500

export async function snapshotWhenDue(treeId: string, item: Held): Promise<void> {
  if (item.unsaved < SNAPSHOT_EVERY) return
  item.unsaved = 0
  const number = item.version
  const json = JSON.stringify(toSnapshot(item.tree))
  const data = await zip(json, { level: 1 })
  await database().insert(snapshots).ignore().values({ treeId, number, data })
}
