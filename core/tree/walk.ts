import type { Topic, TopicId } from './topic'
import { childrenOf, topicOf, type Tree } from './tree'

/** The topic and all below it, parents before children, in order. Removed branches are passed over. */
export function* branch(tree: Tree, root: TopicId): Generator<Topic> {
  const stack: TopicId[] = [root]
  while (stack.length > 0) {
    const id = stack.pop()!
    yield topicOf(tree, id)
    const below = childrenOf(tree, id)
    for (let i = below.length - 1; i >= 0; i--) stack.push(below[i]!)
  }
}

/** Loose topics that stand on the canvas: those that wait in the tray don't. */
export function looseOf(tree: Tree): TopicId[] {
  return childrenOf(tree, null).filter(id => !topicOf(tree, id).tray)
}

/** The lines in the tray, in order. */
export function trayOf(tree: Tree): TopicId[] {
  return childrenOf(tree, null).filter(id => topicOf(tree, id).tray)
}

/** The roots of what stands on the canvas: the centre, then the loose topics. */
export function roots(tree: Tree): readonly TopicId[] {
  return [tree.centre, ...looseOf(tree)]
}

/**
 * Every live topic on the canvas in reading order. One walk over all roots: nested generators would cost more than the
 * topics.
 */
export function* allTopics(tree: Tree): Generator<Topic> {
  const stack: TopicId[] = [...roots(tree)].reverse()
  while (stack.length > 0) {
    const id = stack.pop()!
    yield topicOf(tree, id)
    const below = childrenOf(tree, id)
    for (let i = below.length - 1; i >= 0; i--) stack.push(below[i]!)
  }
}

/** How many live topics the tree has. */
export function countTopics(tree: Tree): number {
  let count = 0
  const stack = [...roots(tree)]
  while (stack.length > 0) {
    count++
    for (const child of childrenOf(tree, stack.pop()!)) stack.push(child)
  }
  return count
}

/** How many levels stand below the centre. */
export function levelsOf(tree: Tree): number {
  let levels = -1
  for (let level: readonly TopicId[] = [tree.centre]; level.length > 0; levels++)
    level = level.flatMap(id => childrenOf(tree, id))
  return levels
}

/** From the root of the topic's branch down to the topic itself. */
export function pathTo(tree: Tree, id: TopicId): Topic[] {
  const path: Topic[] = []
  for (
    let topic = tree.topics.get(id);
    topic;
    topic = topic.parent === null ? undefined : tree.topics.get(topic.parent)
  )
    path.push(topic)
  return path.reverse()
}

/** Levels below its root: 0 for the centre and loose topics. */
export function depthOf(tree: Tree, id: TopicId): number {
  let depth = 0
  for (let at = tree.topics.get(id)?.parent ?? null; at !== null; at = tree.topics.get(at)?.parent ?? null) depth++
  return depth
}

/** The topic's place among its siblings, from 0; -1 for the centre and removed topics. */
export function placeOf(tree: Tree, id: TopicId): number {
  return id === tree.centre ? -1 : childrenOf(tree, topicOf(tree, id).parent).indexOf(id)
}

/** Whether `below` is `above` or lies below it. */
export function isWithin(tree: Tree, below: TopicId, above: TopicId): boolean {
  for (let at: TopicId | null = below; at !== null; at = tree.topics.get(at)?.parent ?? null)
    if (at === above) return true
  return false
}

/** The selection without topics that travel with another one of it, in reading order of the tree. */
export function topmost(tree: Tree, ids: Iterable<TopicId>): TopicId[] {
  const wanted = new Set(ids)
  const tops = [...wanted].filter(id => {
    for (let at = tree.topics.get(id)?.parent ?? null; at !== null; at = tree.topics.get(at)?.parent ?? null)
      if (wanted.has(at)) return false
    return tree.topics.has(id)
  })
  return inReadingOrder(tree, tops)
}

/** Sorts topics as they are read: by the places on their paths. Cost: the topics named and their depths. */
export function inReadingOrder(tree: Tree, ids: readonly TopicId[]): TopicId[] {
  if (ids.length < 2) return [...ids]
  const keyed = ids.map(id => ({ id, path: pathTo(tree, id) }))
  keyed.sort((a, b) => {
    const shared = Math.min(a.path.length, b.path.length)
    for (let i = 0; i < shared; i++) {
      const x = a.path[i]!
      const y = b.path[i]!
      if (x.id === y.id) continue
      if (x.id === tree.centre) return -1
      if (y.id === tree.centre) return 1
      return x.order < y.order || (x.order === y.order && x.id < y.id) ? -1 : 1
    }
    return a.path.length - b.path.length
  })
  return keyed.map(item => item.id)
}

/**
 * The number that is said aloud: '2.4' for the fourth child of the second main branch; '' for the centre and loose
 * topics.
 */
export function numberOf(tree: Tree, id: TopicId): string {
  const path = pathTo(tree, id)
  if (path[0]?.id !== tree.centre) return ''
  return path
    .slice(1)
    .map(topic => placeOf(tree, topic.id) + 1)
    .join('.')
}

/** Numbers of all topics below the centre in one walk. */
export function numbering(tree: Tree): Map<TopicId, string> {
  const numbers = new Map<TopicId, string>()
  const stack: [TopicId, string][] = [[tree.centre, '']]
  while (stack.length > 0) {
    const [id, number] = stack.pop()!
    childrenOf(tree, id).forEach((child, i) => {
      const own = number === '' ? `${i + 1}` : `${number}.${i + 1}`
      numbers.set(child, own)
      stack.push([child, own])
    })
  }
  return numbers
}
