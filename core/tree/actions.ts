import { generateNKeysBetween } from 'fractional-indexing'
import type { Field, Fields, Side } from './fields'
import type { Change, Initial } from './change'
import { type OutlineItem, plant } from './outline'
import { roomAt } from './order'
import { isTwoSided, keepSides, sideOf, sidesBelow, splitAfter } from './split'
import type { TopicId } from './topic'
import { childrenOf, topicOf, type Tree } from './tree'
import { isWithin, placeOf, topmost } from './walk'

/**
 * What people do, as the changes of one edit. Each returns an empty list when there is nothing to do,
 * and where topics are made, their ids, so that a view can go there.
 */
export interface Step {
  readonly changes: readonly Change[]
  readonly made: readonly TopicId[]
}

const NOTHING: Step = { changes: [], made: [] }

/** Where something lands: under a parent (null: loose), before the sibling that now has this index. */
export interface Slot {
  readonly parent: TopicId | null
  readonly index: number
  /** Where the children stand on both sides: on which of them. Without, on the side of whoever stands before. */
  readonly side?: Side | null
}

/** A new topic in a slot. */
export function addAt(tree: Tree, slot: Slot, newId: () => TopicId, given: Initial = {}): Step {
  const topic = newId()
  const { keys, aside } = roomAt(tree, slot.parent, slot.index, 1)
  const changes: Change[] = [...aside, { op: 'add', topic, parent: slot.parent, order: keys[0]!, with: given }]
  return { changes: [...changes, ...keepSides(tree, slot.parent, changes, [topic], slot.side)], made: [topic] }
}

/** The slot of a new last child. */
export function lastChild(tree: Tree, parent: TopicId): Slot {
  return { parent, index: childrenOf(tree, parent).length }
}

/** The slot beside a topic. The centre has no siblings: its slot is a new last child. */
export function besideSlot(tree: Tree, topic: TopicId, where: 'before' | 'after'): Slot {
  if (topic === tree.centre) return lastChild(tree, topic)
  const { parent } = topicOf(tree, topic)
  return { parent, index: placeOf(tree, topic) + (where === 'after' ? 1 : 0), side: ownSide(tree, topic) }
}

/** The side on which a topic stands, where its siblings stand on both. */
function ownSide(tree: Tree, topic: TopicId): Side | null {
  const { parent } = topicOf(tree, topic)
  return parent !== null && isTwoSided(tree, parent) ? sideOf(tree, topic) : null
}

/** The branches that a selection means: the centre, which can't go anywhere, doesn't take its children along. */
export function movable(tree: Tree, ids: Iterable<TopicId>): TopicId[] {
  return topmost(
    tree,
    [...ids].filter(id => id !== tree.centre),
  )
}

/** Moves branches, in reading order, to a slot. A branch that holds the slot stays where it is. */
export function moveTo(tree: Tree, ids: Iterable<TopicId>, slot: Slot): Step {
  const moving = movable(tree, ids).filter(id => slot.parent === null || !isWithin(tree, slot.parent, id))
  if (moving.length === 0) return NOTHING
  const { keys, aside } = roomAt(tree, slot.parent, slot.index, moving.length, new Set(moving))
  const changes: Change[] = [...aside]
  moving.forEach((topic, i) => {
    changes.push({ op: 'place', topic, parent: slot.parent, order: keys[i]! })
    const { parent, tray, x, y } = topicOf(tree, topic)
    if (tray) changes.push({ op: 'set', topic, field: 'tray', value: false })
    // A place by hand counts from the parent, so it means nothing under another one.
    if (parent !== slot.parent && (x !== null || y !== null))
      changes.push({ op: 'set', topic, field: 'x', value: null }, { op: 'set', topic, field: 'y', value: null })
  })
  return { changes: [...changes, ...keepSides(tree, slot.parent, changes, moving, slot.side)], made: moving }
}

/**
 * Moves a selection one place on (1) or back (-1) in the order of its siblings; at the end of the line it stays. On both
 * sides of a topic as many stand on each as before: who goes over the end of one changes places with whoever is there.
 */
export function moveAlong(tree: Tree, ids: Iterable<TopicId>, by: -1 | 1): Step {
  const moving = movable(tree, ids)
  const edge = by < 0 ? moving[0] : moving.at(-1)
  if (edge === undefined) return NOTHING
  const parent = topicOf(tree, edge).parent
  if (moving.some(id => topicOf(tree, id).parent !== parent)) return NOTHING
  const siblings = childrenOf(tree, parent)
  let at = siblings.indexOf(edge) + by
  while (at >= 0 && at < siblings.length && moving.includes(siblings[at]!)) at += by
  if (at < 0 || at >= siblings.length) return NOTHING
  const step = moveTo(tree, moving, { parent, index: by < 0 ? at : at + 1 })
  return { ...step, changes: keepingCounts(tree, parent, step.changes) }
}

/** Changes that reorder siblings, with as many of them on each side as before. */
function keepingCounts(tree: Tree, parent: TopicId | null, changes: readonly Change[]): readonly Change[] {
  if (parent === null || topicOf(tree, parent).split === null) return changes
  const right = sidesBelow(tree, parent).filter(side => side === 'right').length
  const others = changes.filter(change => !(change.op === 'set' && change.field === 'split'))
  return [...others, ...splitAfter(tree, parent, others, right)]
}

/** One level out: right after the parent. Main branches and loose topics are out already. */
export function outdent(tree: Tree, ids: Iterable<TopicId>): Step {
  const moving = movable(tree, ids)
  const first = moving[0]
  if (first === undefined) return NOTHING
  const parent = topicOf(tree, first).parent
  if (parent === null || parent === tree.centre) return NOTHING
  return moveTo(
    tree,
    moving.filter(id => topicOf(tree, id).parent === parent),
    besideSlot(tree, parent, 'after'),
  )
}

/** One level in: last under the sibling before. */
export function indent(tree: Tree, ids: Iterable<TopicId>): Step {
  const moving = movable(tree, ids)
  const first = moving[0]
  if (first === undefined) return NOTHING
  const { parent } = topicOf(tree, first)
  const siblings = childrenOf(tree, parent)
  const target = siblings[siblings.indexOf(first) - 1]
  if (target === undefined) return NOTHING
  const step = moveTo(
    tree,
    moving.filter(id => topicOf(tree, id).parent === parent),
    lastChild(tree, target),
  )
  return topicOf(tree, target).folded
    ? { ...step, changes: [...step.changes, { op: 'set', topic: target, field: 'folded', value: false }] }
    : step
}

/** Puts one new parent around the selection, where its first topic stood. */
export function wrapIn(tree: Tree, ids: Iterable<TopicId>, newId: () => TopicId): Step {
  const moving = movable(tree, ids)
  const first = moving[0]
  if (first === undefined) return NOTHING
  const { x, y } = topicOf(tree, first)
  const place = topicOf(tree, first).parent === null && x !== null ? { x, y } : {}
  const added = addAt(tree, besideSlot(tree, first, 'before'), newId, place)
  const around = added.made[0]!
  const keys = generateNKeysBetween(null, null, moving.length)
  return {
    changes: [
      ...added.changes,
      ...moving.map((topic, i): Change => ({ op: 'place', topic, parent: around, order: keys[i]! })),
    ],
    made: added.made,
  }
}

/** Puts a new topic between a topic and all its children. */
export function insertBelow(tree: Tree, parent: TopicId, newId: () => TopicId): Step {
  const kids = childrenOf(tree, parent)
  const added = addAt(tree, lastChild(tree, parent), newId)
  return {
    changes: [
      ...added.changes,
      ...kids.map((topic): Change => ({
        op: 'place',
        topic,
        parent: added.made[0]!,
        order: topicOf(tree, topic).order,
      })),
    ],
    made: added.made,
  }
}

/** Removes branches; they can be brought back. The centre stays. */
export function removeAll(tree: Tree, ids: Iterable<TopicId>): Step {
  const going = movable(tree, ids)
  return { changes: going.map(topic => ({ op: 'remove', topic })), made: going }
}

/** Sets one field on every topic where it differs. */
export function setAll<F extends Field>(tree: Tree, ids: Iterable<TopicId>, field: F, value: Fields[F]): Step {
  const changes: Change[] = []
  for (const topic of ids)
    if (topicOf(tree, topic)[field] !== value) changes.push({ op: 'set', topic, field, value } as Change)
  return { changes, made: [] }
}

/**
 * Gives a marker or a person to every topic, or takes it from all when all have it. `rivals` go when it comes: those
 * that its set lets stand beside it never.
 */
export function toggleMember(
  tree: Tree,
  ids: readonly TopicId[],
  set: 'markers' | 'people',
  member: string,
  rivals: readonly string[] = [],
): Step {
  const without = ids.filter(id => !topicOf(tree, id)[set].includes(member))
  if (without.length === 0)
    return { changes: ids.map((topic): Change => ({ op: 'take', topic, set, member })), made: [] }
  const changes: Change[] = []
  for (const topic of without) {
    for (const rival of rivals)
      if (topicOf(tree, topic)[set].includes(rival)) changes.push({ op: 'take', topic, set, member: rival })
    changes.push({ op: 'put', topic, set, member } as Change)
  }
  return { changes, made: [] }
}

/** One marker instead of another, wherever the other stands. */
export function replaceMarker(tree: Tree, ids: Iterable<TopicId>, old: string, marker: string): Step {
  const changes: Change[] = []
  for (const topic of ids) {
    if (topicOf(tree, topic).markers.includes(old))
      changes.push(
        { op: 'take', topic, set: 'markers', member: old },
        { op: 'put', topic, set: 'markers', member: marker },
      )
  }
  return { changes, made: [] }
}

/** Plants items in a slot. */
export function plantAt(tree: Tree, items: readonly OutlineItem[], slot: Slot, newId: () => TopicId): Step {
  const { keys, aside } = roomAt(tree, slot.parent, slot.index, items.length)
  // A place by hand counted from where the branch came from; here the arrangement says where it stands, and the hand
  // afterwards.
  const placeless =
    slot.parent === null
      ? items
      : items.map(item =>
          item.details?.x == null ? item : { ...item, details: { ...item.details, x: null, y: null } },
        )
  const planted = plant(placeless, slot.parent, keys, newId)
  const changes = [...aside, ...planted.changes]
  const { tops } = planted
  return { changes: [...changes, ...keepSides(tree, slot.parent, changes, tops, slot.side)], made: tops }
}
