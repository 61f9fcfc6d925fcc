import { generateKeyBetween } from 'fractional-indexing'
import type { Change } from './change'
import type { Side } from './fields'
import type { Topic, TopicId } from './topic'
import { childrenOf, swapTopic, topicOf, type Tree } from './tree'

/*
 * On both sides of a topic, its children are read in their one order: the first ones on the right from the top down, the
 * rest on the left. Where the right ends is the topic's split: an order key, so that it holds whatever comes, goes or
 * moves beside it. Those whose key is below it stand right.
 */

/** Beyond this share of the lower side the taller one gives branches away. */
const UNEVEN = 1.5

/**
 * How many of the first branches stand on the right so that both sides are about equally tall; of two that are as good,
 * more. `heights` in whatever unit.
 */
export function evenSplit(heights: readonly number[]): number {
  if (heights.length < 2) return heights.length
  const whole = heights.reduce((sum, height) => sum + height, 0)
  let best = 1
  let least = Infinity
  let right = 0
  for (let k = 1; k < heights.length; k++) {
    right += heights[k - 1]!
    const off = Math.abs(whole - 2 * right)
    if (off <= least + 1e-9) {
      least = off
      best = k
    }
  }
  return best
}

interface Standing {
  readonly id: TopicId
  readonly order: string
}

const rightOf = (split: string | null, standing: readonly Standing[]): number =>
  split === null ? Math.ceil(standing.length / 2) : standing.filter(({ order }) => order < split).length

const standingBelow = (tree: Tree, parent: TopicId): Standing[] => childrenOf(tree, parent).map(id => topicOf(tree, id))

/** On which side of a topic each of its children stands, in their order: first right ones, then left ones. */
export function sidesBelow(tree: Tree, parent: TopicId): Side[] {
  const standing = standingBelow(tree, parent)
  const right = rightOf(topicOf(tree, parent).split, standing)
  return standing.map((_, i) => (i < right ? 'right' : 'left'))
}

/** The side of a topic among its siblings, where they stand on both; null for the centre and loose topics. */
export function sideOf(tree: Tree, id: TopicId): Side | null {
  const { parent } = topicOf(tree, id)
  return parent === null ? null : (sidesBelow(tree, parent)[childrenOf(tree, parent).indexOf(id)] ?? null)
}

/** Whether a topic's children stand on both sides of it. */
export function isTwoSided(tree: Tree, id: TopicId): boolean {
  const arrangement = id === tree.centre ? tree.fields.arrangement : topicOf(tree, id).arrangement
  return arrangement === 'both' || arrangement === 'around'
}

/** The key at which so many of the first stand right. */
function keyAt(standing: readonly Standing[], right: number): string {
  return standing[right]?.order ?? generateKeyBetween(standing.at(-1)?.order ?? null, null)
}

/** The children of a topic as they'll stand after changes. */
function standingAfter(tree: Tree, parent: TopicId, changes: readonly Change[]): Standing[] {
  const after = new Map(standingBelow(tree, parent).map(({ id, order }) => [id, { id, order }]))
  for (const change of changes) {
    if (change.op === 'remove') after.delete(change.topic)
    if (change.op !== 'add' && change.op !== 'place') continue
    if (change.parent === parent) after.set(change.topic, { id: change.topic, order: change.order })
    else after.delete(change.topic)
  }
  return [...after.values()].sort((a, b) => (a.order < b.order ? -1 : a.order > b.order ? 1 : a.id < b.id ? -1 : 1))
}

/**
 * What else an edit has to say so that those who come stand on the side they were put on, and nobody else changes
 * sides; nothing when the split that is there says so already. `side` null: the side of whoever stands before.
 */
export function keepSides(
  tree: Tree,
  parent: TopicId | null,
  changes: readonly Change[],
  coming: readonly TopicId[],
  side: Side | null = null,
): Change[] {
  const split = parent === null ? null : (tree.topics.get(parent)?.split ?? null)
  if (parent === null || !tree.topics.has(parent)) return []
  if (!isTwoSided(tree, parent)) side = null
  if (split === null && side === null) return []
  const before = new Map(childrenOf(tree, parent).map((id, i) => [id, sidesBelow(tree, parent)[i]!]))
  const after = standingAfter(tree, parent, changes)
  const stay = after.flatMap(({ id }, i) => (coming.includes(id) ? [] : [{ side: before.get(id), i }]))
  const places = after.flatMap(({ id }, i) => (coming.includes(id) ? [i] : []))
  let right = (stay.findLast(one => one.side === 'right')?.i ?? -1) + 1
  if (side === 'right') right = Math.max(right, ...places.map(i => i + 1))
  else if (side === 'left' && places.length > 0) right = Math.min(right, places[0]!)
  else right = Math.min(stay.find(one => one.side === 'left')?.i ?? after.length, Math.max(right, 0))
  if (split !== null && rightOf(split, after) === right) return []
  return [{ op: 'set', topic: parent, field: 'split', value: keyAt(after, right) }]
}

/** What makes so many of the first children of a topic stand right, after changes; nothing when they do. */
export function splitAfter(tree: Tree, parent: TopicId, changes: readonly Change[], right: number): Change[] {
  const after = standingAfter(tree, parent, changes)
  const { split } = topicOf(tree, parent)
  if (split !== null && rightOf(split, after) === right) return []
  return [{ op: 'set', topic: parent, field: 'split', value: keyAt(after, right) }]
}

/** How tall branches are when one knows nothing of planks: by the topics at their ends. */
function endsOf(tree: Tree, id: TopicId): number {
  let ends = 0
  const stack = [id]
  while (stack.length > 0) {
    const kids = childrenOf(tree, stack.pop()!)
    if (kids.length === 0) ends++
    for (const kid of kids) stack.push(kid)
  }
  return ends
}

/**
 * Changes, with another split for each topic below which they make one side over half as tall again as the other, when
 * that mends it. Who says the split in them is left alone.
 */
export function withSplits(tree: Tree, changes: readonly Change[]): readonly Change[] {
  const parents = new Set<TopicId>()
  for (const change of changes) {
    if (change.op !== 'add' && change.op !== 'place' && change.op !== 'remove') continue
    for (const from of [change.op === 'remove' ? null : change.parent, tree.topics.get(change.topic)?.parent ?? null])
      for (let at = from; at !== null; at = tree.topics.get(at)?.parent ?? null)
        if (tree.topics.has(at) && isTwoSided(tree, at)) parents.add(at)
  }
  const more: Change[] = []
  for (const parent of parents) {
    if (changes.some(change => change.op === 'set' && change.topic === parent && change.field === 'split')) continue
    const after = standingAfter(tree, parent, changes)
    if (after.length < 2) continue
    const heights = after.map(({ id }) => (tree.topics.has(id) ? endsOf(tree, id) : 1))
    const { split } = topicOf(tree, parent)
    const right = rightOf(split, after)
    const off = (k: number): number => heights.reduce((sum, height, i) => sum + (i < k ? height : -height), 0)
    const whole = heights.reduce((sum, height) => sum + height, 0)
    const [now, best] = [Math.abs(off(right)), evenSplit(heights)]
    const isUneven = whole + now > UNEVEN * (whole - now)
    const to = isUneven && Math.abs(off(best)) < now ? best : right
    if (split === null || to !== right) more.push({ op: 'set', topic: parent, field: 'split', value: keyAt(after, to) })
  }
  return more.length === 0 ? changes : [...changes, ...more]
}

/** Gives both sides of each topic of a tree that nobody else has yet about the same height. Alters the tree. */
export function giveSplits(tree: Tree): void {
  for (const topic of [...tree.topics.values()]) {
    const kids = childrenOf(tree, topic.id)
    if (topic.split !== null || kids.length < 2 || !isTwoSided(tree, topic.id)) continue
    setSplit(tree, topic, keyAt(standingBelow(tree, topic.id), evenSplit(kids.map(id => endsOf(tree, id)))))
  }
}

/**
 * Of a tree in which each main branch had a side of its own: as many on the right as there were, the first ones. Alters
 * the tree. The same as migration 0007 does, so that a copy that a browser kept agrees with the server's.
 */
export function splitAsSided(tree: Tree, wasLeft: ReadonlySet<TopicId>): void {
  const standing = standingBelow(tree, tree.centre)
  const left = standing.filter(({ id }) => wasLeft.has(id)).length
  if (left === 0) return
  setSplit(tree, topicOf(tree, tree.centre), keyAt(standing, standing.length - left))
}

function setSplit(tree: Tree, topic: Topic, split: string): void {
  swapTopic(tree, topic.id, topic, { ...topic, split })
}
