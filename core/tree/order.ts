import { generateNKeysBetween } from 'fractional-indexing'
import type { Change } from './change'
import type { TopicId } from './topic'
import { type Tree, childrenOf } from './tree'

export interface Room {
  /** One key for each newcomer, ascending. */
  readonly keys: readonly string[]
  /** Siblings that have to step aside because two people once chose the same key. Usually empty. */
  readonly aside: readonly Change[]
}

/**
 * Keys for `count` newcomers under `parent` (null: loose topics) before the sibling that now has `index`.
 * `leaving` are topics about to be placed here that already stand here: they don't count as neighbours.
 */
export function roomAt(tree: Tree, parent: TopicId | null, index: number, count: number, leaving?: ReadonlySet<TopicId>): Room {
  let siblings = childrenOf(tree, parent)
  let at = Math.max(0, Math.min(index, siblings.length))
  if (leaving && leaving.size > 0) {
    at -= siblings.slice(0, at).filter(id => leaving.has(id)).length
    siblings = siblings.filter(id => !leaving.has(id))
  }
  const keyOf = (i: number): string | null => {
    const sibling = siblings[i]
    return sibling === undefined ? null : tree.topics.get(sibling)!.order
  }
  const before = at > 0 ? keyOf(at - 1) : null
  let end = at
  while (before !== null && end < siblings.length && keyOf(end)! <= before) end++
  const keys = generateNKeysBetween(before, keyOf(end), count + end - at)
  const aside = siblings.slice(at, end).map((topic, i): Change => ({ op: 'place', topic, parent, order: keys[count + i]! }))
  return { keys: keys.slice(0, count), aside }
}
