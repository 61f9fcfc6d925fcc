import { compareSiblings } from './siblings'
import type { Topic, TopicId } from './topic'
import { FRESH_FIELDS, type TreeFields } from './tree-fields'

/**
 * A tree in memory: plain data with an index by id and by parent. The maps are altered in place by `apply`
 * (see docs/decisions/0001), the topics in them never are.
 */
export interface Tree {
  readonly centre: TopicId
  readonly topics: Map<TopicId, Topic>
  /** Children in order, without removed ones. Loose topics stand under ''. The centre stands nowhere. */
  readonly children: Map<TopicId | '', TopicId[]>
  fields: TreeFields
}

/** A tree that holds its centre alone. */
export function emptyTree(centre: Topic): Tree {
  return { centre: centre.id, topics: new Map([[centre.id, centre]]), children: new Map(), fields: FRESH_FIELDS }
}

const NONE: readonly TopicId[] = []

/** The topics directly below `parent` in order (null: the loose topics), without those in the trash. */
export function childrenOf(tree: Tree, parent: TopicId | null): readonly TopicId[] {
  return tree.children.get(parent ?? '') ?? NONE
}

/** The topic, which must exist. Throws a `RangeError` where there is none. */
export function topicOf(tree: Tree, id: TopicId): Topic {
  const topic = tree.topics.get(id)
  if (!topic) throw new RangeError(`no topic ${id} in this tree`)
  return topic
}

/** True unless the topic, or one above it, is in the trash. Cost: the depth. */
export function isLive(tree: Tree, id: TopicId): boolean {
  let at: TopicId | null = id
  while (at !== null) {
    const topic = tree.topics.get(at)
    if (!topic || topic.removed) return false
    at = topic.parent
  }
  return true
}

function slotOf(tree: Tree, list: readonly TopicId[], topic: Topic): number {
  let low = 0
  let high = list.length
  while (low < high) {
    const middle = (low + high) >>> 1
    if (compareSiblings(tree.topics.get(list[middle]!)!, topic) < 0) low = middle + 1
    else high = middle
  }
  return low
}

function standsInIndex(tree: Tree, topic: Topic | undefined): topic is Topic {
  return topic !== undefined && !topic.removed && topic.id !== tree.centre
}

/**
 * Puts `after` where `before` was (either may be absent) and keeps both indexes right.
 * The only place that writes to a tree's maps. Cost: the siblings' array, at worst.
 */
export function swapTopic(tree: Tree, id: TopicId, before: Topic | undefined, after: Topic | undefined): void {
  const stays =
    before !== undefined &&
    after !== undefined &&
    before.parent === after.parent &&
    before.order === after.order &&
    before.removed === after.removed
  if (!stays && standsInIndex(tree, before)) {
    const list = tree.children.get(before.parent ?? '')!
    list.splice(slotOf(tree, list, before), 1)
    if (list.length === 0) tree.children.delete(before.parent ?? '')
  }
  if (after) tree.topics.set(id, after)
  else tree.topics.delete(id)
  if (!stays && standsInIndex(tree, after)) {
    const list = tree.children.get(after.parent ?? '')
    if (list) list.splice(slotOf(tree, list, after), 0, id)
    else tree.children.set(after.parent ?? '', [id])
  }
}
