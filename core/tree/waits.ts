import { Refused } from './apply'
import type { Change } from './change'
import { shorten } from './title'
import type { TopicId } from './topic'
import { childrenOf, isLive, type Tree } from './tree'
import { isWithin } from './walk'

/** Topics that one edit's dependencies are followed over, at most: what is larger comes as a whole, and is shown as broken. */
const MOST_FOLLOWED = 100_000
/** Topics in a way that is told at most. */
const MOST_TOLD = 6

/**
 * The way on which what a topic would wait for waits for the topic itself: from `on` to `by`, both included, where each waits for the
 * next. Null when there is none. A dependency of or on a branch is one of each topic in it. Cost: the branches on the way, and no more than
 * `budget.left` topics, which are taken from it; null when that is used up.
 */
export function wayBack(
  tree: Tree,
  by: TopicId,
  on: TopicId,
  budget: { left: number } = { left: MOST_FOLLOWED },
): TopicId[] | null {
  /** How each topic was come to: who waits for it, or for a branch that it's in. */
  const before = new Map<TopicId, TopicId | null>()
  const queue: TopicId[] = []
  const enter = (branch: TopicId, from: TopicId | null): void => {
    const stack = [branch]
    for (let id = stack.pop(); id !== undefined; id = stack.pop()) {
      if (before.has(id)) continue
      if (--budget.left < 0) return
      before.set(id, from)
      queue.push(id)
      stack.push(...childrenOf(tree, id))
    }
  }
  /** Branches whose dependencies were followed already. */
  const followed = new Set<TopicId>()
  enter(on, null)
  for (let at = 0; at < queue.length && budget.left >= 0; at++)
    for (let waiting: TopicId | null = queue[at]!; waiting !== null; waiting = tree.topics.get(waiting)!.parent) {
      if (followed.has(waiting)) break
      followed.add(waiting)
      for (const wait of tree.topics.get(waiting)!.waits) {
        if (
          wait.elsewhere ||
          !isLive(tree, wait.on) ||
          isWithin(tree, wait.on, waiting) ||
          isWithin(tree, waiting, wait.on)
        )
          continue
        if (isWithin(tree, wait.on, by) || isWithin(tree, by, wait.on)) {
          const way: TopicId[] = [by]
          for (let id: TopicId | null = queue[at]!; id !== null; id = before.get(id)!) way.unshift(id)
          return [on, ...way.filter(id => id !== on)]
        }
        enter(wait.on, queue[at]!)
      }
    }
  return null
}

/**
 * Refuses dependencies that somebody makes and that would lead round in a circle, with its members named. The tree is as the changes
 * left it. What a move, a copy or a restore closes is never refused: there the plan shows the dependencies as broken.
 */
export function refuseCircles(tree: Tree, changes: readonly Change[]): void {
  const budget = { left: MOST_FOLLOWED }
  for (const change of changes) {
    if (change.op !== 'put' || change.set !== 'waits') continue
    const { topic: by, member } = change
    // Another tree goes by what is known of this one, as this one does: nothing is reckoned round in a circle.
    if (member.elsewhere) continue
    // What is gone again by the end of the edit closes nothing.
    if (!tree.topics.get(by)?.waits.some(({ id, on }) => id === member.id && on === member.on)) continue
    if (!isLive(tree, member.on) || !isLive(tree, by)) continue
    if (isWithin(tree, member.on, by) || isWithin(tree, by, member.on))
      throw new Refused('loop', 'A topic can’t wait for itself, for what it’s part of, or for a part of it.')
    const way = wayBack(tree, by, member.on, budget)
    if (!way) continue
    const named = [by, ...way].map(id => `“${shorten(tree.topics.get(id)!.title || 'untitled', 30)}”`)
    const told = named.length > MOST_TOLD ? [...named.slice(0, MOST_TOLD - 2), '…', ...named.slice(-1)] : named
    throw new Refused('loop', `These would wait for one another: ${told.join(', which waits for ')}.`)
  }
}
