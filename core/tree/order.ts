import type { Change } from './change'
import { keysAt } from './order-key'
import type { TopicId } from './topic'
import { type Tree, childrenOf } from './tree'

export interface Room {
  /** One key for each newcomer, ascending. */
  readonly keys: readonly string[]
  /**
   * Siblings that get another key: because two people once chose the same one, or because keys had grown long. Usually
   * empty.
   */
  readonly aside: readonly Change[]
}

/**
 * Keys for `count` newcomers under `parent` (null: loose topics) before the sibling that now has `index`.
 * `leaving` are topics about to be placed here that already stand here: they don't count as neighbours.
 */
export function roomAt(
  tree: Tree,
  parent: TopicId | null,
  index: number,
  count: number,
  leaving?: ReadonlySet<TopicId>,
): Room {
  let siblings = childrenOf(tree, parent)
  let at = Math.max(0, Math.min(index, siblings.length))
  if (leaving && leaving.size > 0) {
    at -= siblings.slice(0, at).filter(id => leaving.has(id)).length
    siblings = siblings.filter(id => !leaving.has(id))
  }
  const { keys, aside } = keysAt(
    siblings.map(id => tree.topics.get(id)!.order),
    at,
    count,
  )
  return { keys, aside: [...aside].map(([i, order]): Change => ({ op: 'place', topic: siblings[i]!, parent, order })) }
}
