import { generateNKeysBetween } from 'fractional-indexing'
import type { Change, Initial } from './change'
import type { Topic, TopicId } from './topic'
import { childrenOf, topicOf, type Tree } from './tree'

/**
 * The neutral tree that every format reads into and writes from: topics without addresses and order keys.
 * `details` is whatever else a topic carries; notes in it are Yjs updates in base64.
 */
export interface OutlineItem {
  readonly title: string
  readonly details?: Omit<Initial, 'title'>
  readonly children: readonly OutlineItem[]
}

const CARRIED = ['start', 'due', 'duration', 'done', 'priority', 'folded', 'side', 'x', 'y', 'z', 'arrangement', 'hue', 'fill', 'ink', 'textSize', 'bold', 'slanted', 'underlined', 'shape', 'border', 'edge', 'width', 'picture', 'note'] as const
const SETS = ['markers', 'people', 'links'] as const

function detailsOf(topic: Topic): Omit<Initial, 'title'> | undefined {
  const details: Record<string, unknown> = {}
  for (const key of CARRIED) {
    const value = topic[key]
    if (value !== null && value !== false && value !== 0) details[key] = value
  }
  for (const key of SETS) if (topic[key].length > 0) details[key] = [...topic[key]]
  return Object.keys(details).length > 0 ? details : undefined
}

/** The branch as neutral items, without what lies in the trash. */
export function toOutline(tree: Tree, root: TopicId): OutlineItem {
  const topic = topicOf(tree, root)
  const details = detailsOf(topic)
  return {
    title: topic.title,
    ...(details ? { details } : {}),
    children: childrenOf(tree, root).map(child => toOutline(tree, child)),
  }
}

/** How many topics the items are. */
export function countItems(items: readonly OutlineItem[]): number {
  return items.reduce((sum, item) => sum + 1 + countItems(item.children), 0)
}

/**
 * The changes that plant items below `parent`. `keys` hold an order key for each item of the first level;
 * keys further down are made here. Returns the new topics of the first level too.
 */
export function plant(items: readonly OutlineItem[], parent: TopicId | null, keys: readonly string[], newId: () => TopicId): { changes: Change[], tops: TopicId[] } {
  const changes: Change[] = []
  const tops: TopicId[] = []
  const walk = (list: readonly OutlineItem[], under: TopicId | null, orders: readonly string[], first: boolean): void => {
    list.forEach((item, i) => {
      const topic = newId()
      if (first) tops.push(topic)
      changes.push({ op: 'add', topic, parent: under, order: orders[i]!, with: { title: item.title, ...item.details } })
      if (item.children.length > 0) walk(item.children, topic, generateNKeysBetween(null, null, item.children.length), false)
    })
  }
  walk(items, parent, keys, true)
  return { changes, tops }
}
