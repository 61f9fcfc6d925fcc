import { and, eq, inArray, sql } from 'drizzle-orm'
import { fromBase64, type Patch, type Topic, type TopicId, type Tree } from '#core/tree'
import type { Transaction } from '../database/connect'
import { topicMarkers, topicPeople, topics } from '../database/schema'

/** Rows in one statement; keeps each well under MariaDB's packet limit. */
const CHUNK = 500

export function* chunks<T>(list: readonly T[], size = CHUNK): Generator<readonly T[]> {
  for (let i = 0; i < list.length; i += size) yield list.slice(i, i + size)
}

function rowOf(treeId: string, topic: Topic): typeof topics.$inferInsert {
  const { folded, side, x, y, fill, ink, textSize, bold, slanted, shape } = topic
  const rest = Object.fromEntries(Object.entries({ folded, side, x, y, fill, ink, textSize, bold, slanted, shape })
    .filter(([, value]) => value !== null && value !== false))
  return {
    treeId, id: topic.id, parent: topic.parent, order: topic.order, removed: topic.removed, title: topic.title,
    start: topic.start, due: topic.due, duration: topic.duration, done: topic.done, priority: topic.priority,
    rest, links: topic.links, note: topic.note === null ? null : Buffer.from(fromBase64(topic.note)),
  }
}

const written = (column: string) => sql.raw(`values(\`${column}\`)`)
const OVERWRITE = {
  parent: written('parent'), order: written('order_key'), removed: written('removed'), title: written('title'),
  start: written('start'), due: written('due'), duration: written('duration'), done: written('done'), priority: written('priority'),
  rest: written('rest'), links: written('links'), note: written('note'),
}

export interface Touched {
  readonly treeId: string
  readonly tree: Tree
  readonly patches: readonly Patch[]
}

/** Writes the topics that edits touched as they are now, and their people and markers where those changed. */
export async function writeRows(tx: Transaction, touched: readonly Touched[]): Promise<void> {
  const rows = new Map<string, typeof topics.$inferInsert>()
  const sets: Record<'people' | 'markers', Map<string, { treeId: string, topic: Topic, known: boolean }>> = { people: new Map(), markers: new Map() }
  for (const { treeId, tree, patches } of touched) {
    for (const { id, before, after } of patches) {
      if (id === null || before === after) continue
      const topic = tree.topics.get(id as TopicId)!
      rows.set(`${treeId}/${id}`, rowOf(treeId, topic))
      for (const set of ['people', 'markers'] as const) {
        if ((before?.[set] ?? []) === after?.[set] || (!before && after?.[set].length === 0)) continue
        const earlier = sets[set].get(`${treeId}/${id}`)
        sets[set].set(`${treeId}/${id}`, { treeId, topic, known: earlier?.known ?? before !== undefined })
      }
    }
  }
  for (const part of chunks([...rows.values()])) await tx.insert(topics).values([...part]).onDuplicateKeyUpdate({ set: OVERWRITE })
  for (const set of ['people', 'markers'] as const) {
    const table = set === 'people' ? topicPeople : topicMarkers
    const changed = [...sets[set].values()]
    const known = changed.filter(item => item.known)
    for (const treeId of new Set(known.map(item => item.treeId)))
      for (const part of chunks(known.filter(item => item.treeId === treeId)))
        await tx.delete(table).where(and(eq(table.treeId, treeId), inArray(table.topicId, part.map(item => item.topic.id))))
    const members = changed.flatMap(({ treeId, topic }) => topic[set].map((member, place) => ({ treeId, topicId: topic.id, place, ...(set === 'people' ? { userId: member } : { marker: member }) })))
    for (const part of chunks(members)) await tx.insert(table).values(part as never)
  }
}
