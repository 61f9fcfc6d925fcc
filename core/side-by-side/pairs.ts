import { keysAt } from '../tree/order-key'
import type { TopicId } from '../tree/topic'
import { childrenOf, emptyTree, isLive, swapTopic, topicOf, type Tree } from '../tree/tree'
import { movedAmong } from '../compare/moves'

/*
 * Two states of a tree read as one: what both have stands in one line, what only one has beside nothing, and what was moved where
 * it is here, with a trace where it is there.
 */

/** A line: a topic as it's here, as it's there, or as both have it. `trace`: where a topic is there that is elsewhere here. */
export interface Pair {
  readonly id: TopicId
  readonly side: 'both' | 'here' | 'there'
  readonly moved: boolean
  readonly trace: boolean
  readonly level: number
}

const inOrderOf = (first: readonly TopicId[], ids: readonly TopicId[]): TopicId[] => {
  const known = new Set(ids)
  const both = first.filter(id => known.has(id))
  const found = new Set(both)
  return [...both, ...ids.filter(id => !found.has(id))]
}

interface Parent extends Pick<Pair, 'side' | 'moved'> {
  /** Null for what hangs on nothing. */
  readonly id: TopicId | null
}
const NOTHING: Parent = { id: null, side: 'both', moved: false }

/** The children of a topic as both have them, in one order: that of here, and what's only there where it stands among them. */
function joined(here: Tree, there: Tree, parent: Parent): Omit<Pair, 'level'>[] {
  // In the trash of a state it has no children there, whatever still hangs on it.
  const mine = parent.side === 'there' ? [] : childrenOf(here, parent.id)
  let theirs = parent.side === 'here' && !parent.moved ? [] : childrenOf(there, parent.id)
  // What hangs on nothing stands in no order.
  if (parent.id === null) theirs = inOrderOf(mine, theirs)
  const known = new Set(theirs)
  const moved = new Set(theirs === mine ? [] : movedAmong(theirs, mine))
  const stays = new Set(mine.filter(id => known.has(id) && !moved.has(id)))
  const found: Omit<Pair, 'level'>[] = []
  let at = 0
  const upTo = (next: TopicId | null): void => {
    for (; at < theirs.length && theirs[at] !== next; at++) {
      const id = theirs[at]!
      const elsewhere = isLive(here, id)
      found.push({ id, side: 'there', moved: elsewhere, trace: elsewhere })
    }
    at++
  }
  for (const id of mine) {
    const both = stays.has(id)
    if (both) upTo(id)
    const came = !both && isLive(there, id)
    found.push({ id, side: both ? 'both' : 'here', moved: came, trace: false })
  }
  upTo(null)
  return found
}

/** Every line from the centre down, then what hangs on nothing. Cost: all topics of both, and their depth where they differ. */
export function sideBySide(here: Tree, there: Tree): Pair[] {
  const pairs: Pair[] = [{ id: here.centre, side: 'both', moved: false, trace: false, level: 0 }]
  const below = (parent: Parent, level: number): Pair[] =>
    joined(here, there, parent)
      .map(pair => ({ ...pair, level }))
      .reverse()
  // The next line to come lies on top.
  const left = [...below(NOTHING, 0), ...below(pairs[0]!, 1)]
  for (let pair = left.pop(); pair; pair = left.pop()) {
    pairs.push(pair)
    if (!pair.trace) left.push(...below(pair, pair.level + 1))
  }
  return pairs
}

/**
 * Both states folded into one tree: that of here, with what's only there put back where it stood. A tree of its own; topics are
 * those of the two states. Cost: all topics of both.
 */
export function folded(here: Tree, there: Tree): Tree {
  const tree = emptyTree(topicOf(here, here.centre))
  tree.fields = here.fields
  const left: Parent[] = [NOTHING, { ...NOTHING, id: here.centre }]
  for (let parent = left.pop(); parent; parent = left.pop()) {
    const pairs = joined(here, there, parent).filter(({ trace }) => !trace)
    const keys = pairs.some(({ side }) => side === 'there') ? keysAt([], 0, pairs.length).keys : null
    for (const [i, pair] of pairs.entries()) {
      const topic = topicOf(pair.side === 'there' ? there : here, pair.id)
      swapTopic(tree, pair.id, undefined, { ...topic, parent: parent.id, ...(keys ? { order: keys[i]! } : {}) })
      left.push(pair)
    }
  }
  return tree
}
