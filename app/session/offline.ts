import { type DBSchema, type IDBPDatabase, openDB } from 'idb'
import { type Edit, EDIT_FORMAT, type Snapshot, upgradeEdit } from '#core/tree'
import type { Role } from '#core/contract'
import type { Saying } from '#core/talk/saying'
import type { KeptWords } from '~/talk/kept-words'

/** A tree as the server sends it. */
export interface SentTree {
  readonly version: number
  readonly role: Role
  readonly people: readonly { readonly id: string; readonly name: string }[]
  readonly snapshot: Snapshot
  /** New after a restore from a backup. */
  readonly epoch?: string
  /** The number up to which one had seen it before. Absent in what was kept. */
  readonly seen?: number
  /** Bytes that one file may have. */
  readonly fileLimit?: number
}

/** Kept as text: for fifty thousand topics that's many times quicker than as objects. */
interface KeptTree {
  readonly treeId: string
  readonly userId: string
  readonly text: string
}

/** What was said in a tree stands beside it, on a shelf of its own. */
const TALK = '/talk'
const talkOf = (treeId: string): string => treeId + TALK

/** Trees of a person that are kept at most: those one has had open lately. */
const MOST_TREES = 30

interface Shelf extends DBSchema {
  trees: { key: [string, string]; value: KeptTree }
  waiting: {
    key: number
    /** What was said waits beside the edits, on a shelf of its own (`talkOf`). */
    value: { treeId: string; userId: string; edit: (Edit & { format?: number }) | Saying }
    indexes: { tree: [string, string] }
  }
}

/**
 * What this browser keeps: edits that the server hasn't acknowledged, until it does, and the trees last seen.
 * All by person, so that two people on one machine never send each other's edits.
 */
let shelf: Promise<IDBPDatabase<Shelf>> | undefined

function open(): Promise<IDBPDatabase<Shelf>> {
  shelf ??= openDB<Shelf>('sun-porch', 1, {
    upgrade(db) {
      db.createObjectStore('trees', { keyPath: ['treeId', 'userId'] })
      db.createObjectStore('waiting', { autoIncrement: true }).createIndex('tree', ['treeId', 'userId'])
    },
  })
  return shelf
}

/** Who has signed out of this page: whatever is still open of theirs on its way out keeps nothing any more. */
const gone = new Set<string>()
export function keepFor(userId: string): void {
  gone.delete(userId)
}

/** What a kept tree is called, and when it was kept (ms since 1970 UTC), beside the trees: they are too heavy to be read for a list. */
interface Label {
  readonly title: string
  readonly at: number
}
const labelsOf = (userId: string): string => `sun-porch-kept-${userId}`

function readLabels(userId: string): Record<string, Label> {
  try {
    return JSON.parse(localStorage.getItem(labelsOf(userId)) ?? '{}') as Record<string, Label>
  } catch {
    return {}
  }
}

export async function keepTree(treeId: string, userId: string, text: string, title: string): Promise<void> {
  if (gone.has(userId)) return
  const store = await open()
  await store.put('trees', { treeId, userId, text })
  if (gone.has(userId)) return
  const labels = { ...readLabels(userId), [treeId]: { title, at: Date.now() } }
  localStorage.setItem(labelsOf(userId), JSON.stringify(labels))
  for (const { id } of (await keptTrees(userId)).slice(MOST_TREES))
    // One with edits that wait is needed to make more of them.
    if ((await store.countFromIndex('waiting', 'tree', [id, userId])) === 0)
      await Promise.all([store.delete('trees', [id, userId]), store.delete('trees', [talkOf(id), userId])])
}

/** The trees that are kept of somebody, the one kept last first. */
export async function keptTrees(userId: string): Promise<readonly (Label & { readonly id: string })[]> {
  const labels = readLabels(userId)
  return (await (await open()).getAllKeys('trees'))
    .filter(([id, user]) => user === userId && !id.endsWith(TALK))
    .map(([id]) => ({ id, ...(labels[id] ?? { title: '', at: 0 }) }))
    .sort((a, b) => b.at - a.at)
}

export async function keptTree(treeId: string, userId: string): Promise<SentTree | undefined> {
  const kept = await (await open()).get('trees', [treeId, userId])
  return kept ? (JSON.parse(kept.text) as SentTree) : undefined
}

export async function keepWaiting(treeId: string, userId: string, edit: Edit): Promise<void> {
  await (await open()).add('waiting', { treeId, userId, edit: { ...edit, format: EDIT_FORMAT } })
}

/** Keeps what was said until it's acknowledged. */
export async function keepSaying(treeId: string, userId: string, saying: Saying): Promise<void> {
  await (await open()).add('waiting', { treeId: talkOf(treeId), userId, edit: saying })
}

export async function waitingSayings(treeId: string, userId: string): Promise<Saying[]> {
  const found = await (await open()).getAllFromIndex('waiting', 'tree', [talkOf(treeId), userId])
  return found.map(item => item.edit as Saying)
}

/** Keeps what is known of what was said in a tree that is kept, to be read without a line. */
export async function keepTalk(treeId: string, userId: string, words: KeptWords): Promise<void> {
  if (gone.has(userId)) return
  await (await open()).put('trees', { treeId: talkOf(treeId), userId, text: JSON.stringify(words) })
}

export async function keptTalk(treeId: string, userId: string): Promise<KeptWords | undefined> {
  const kept = await (await open()).get('trees', [talkOf(treeId), userId])
  return kept ? (JSON.parse(kept.text) as KeptWords) : undefined
}

/** Edits, or what was `said`, that needn't wait any more. */
export async function dropWaiting(
  tree: string,
  userId: string,
  editIds: ReadonlySet<string>,
  said = false,
): Promise<void> {
  const treeId = said ? talkOf(tree) : tree
  const tx = (await open()).transaction('waiting', 'readwrite')
  for await (const cursor of tx.store.index('tree').iterate([treeId, userId]))
    if (editIds.has(cursor.value.edit.id)) await cursor.delete()
  await tx.done
}

/** Edits that still wait, in the order they were made. */
export async function waitingEdits(treeId: string, userId: string): Promise<Edit[]> {
  return (await (await open()).getAllFromIndex('waiting', 'tree', [treeId, userId])).map(
    item => upgradeEdit(item.edit) as Edit,
  )
}

/** The trees for which something of somebody waits: edits, or what was said. */
export async function treesWaiting(userId: string): Promise<ReadonlySet<string>> {
  const all = await (await open()).getAll('waiting').catch(() => [])
  return new Set(
    all
      .filter(item => item.userId === userId)
      .map(({ treeId }) => (treeId.endsWith(TALK) ? treeId.slice(0, -TALK.length) : treeId)),
  )
}

/** How many edits of somebody wait in this browser, over all trees. */
export async function waitingCount(userId: string): Promise<number> {
  const all = await (await open()).getAll('waiting').catch(() => [])
  return all.filter(item => item.userId === userId).length
}

/** All that this browser keeps of somebody goes, edits that wait included. Other people's stay. */
export async function forgetAll(userId: string): Promise<void> {
  gone.add(userId)
  const tx = (await open()).transaction(['trees', 'waiting'], 'readwrite')
  for (const name of ['trees', 'waiting'] as const)
    for await (const cursor of tx.objectStore(name).iterate()) if (cursor.value.userId === userId) await cursor.delete()
  await tx.done
}
