import { generateNKeysBetween } from 'fractional-indexing'
import type { Field, Fields, Side } from './fields'
import type { Change, Initial } from './change'
import { countItems, type OutlineItem, plant, toOutline } from './outline'
import { balanceSides } from './balance'
import { roomAt } from './order'
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
  /** For a main branch: the side of the centre. */
  readonly side?: Side | null
}

/** A new topic in a slot. */
export function addAt(tree: Tree, slot: Slot, newId: () => TopicId, given: Initial = {}): Step {
  const topic = newId()
  const { keys, aside } = roomAt(tree, slot.parent, slot.index, 1)
  const side = slot.parent === tree.centre && slot.side ? { side: slot.side } : {}
  return {
    changes: [...aside, { op: 'add', topic, parent: slot.parent, order: keys[0]!, with: { ...side, ...given } }],
    made: [topic],
  }
}

/** The side with fewer main branches, the right one when they are even. */
export function lighterSide(tree: Tree): Side {
  const main = childrenOf(tree, tree.centre).map(id => topicOf(tree, id).side)
  return main.filter(side => side === 'left').length < main.filter(side => side !== 'left').length ? 'left' : 'right'
}

/** The slot of a new last child. */
export function lastChild(tree: Tree, parent: TopicId): Slot {
  return {
    parent,
    index: childrenOf(tree, parent).length,
    ...(parent === tree.centre ? { side: lighterSide(tree) } : {}),
  }
}

/** The slot beside a topic. The centre has no siblings: its slot is a new last child. */
export function besideSlot(tree: Tree, topic: TopicId, where: 'before' | 'after'): Slot {
  if (topic === tree.centre) return lastChild(tree, topic)
  const { parent, side } = topicOf(tree, topic)
  return { parent, index: placeOf(tree, topic) + (where === 'after' ? 1 : 0), side }
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
    const { parent, side, tray, x, y } = topicOf(tree, topic)
    if (slot.parent === tree.centre && slot.side && side !== slot.side)
      changes.push({ op: 'set', topic, field: 'side', value: slot.side })
    if (tray) changes.push({ op: 'set', topic, field: 'tray', value: false })
    // A place by hand counts from the parent, so it means nothing under another one.
    if (parent !== slot.parent && (x !== null || y !== null))
      changes.push({ op: 'set', topic, field: 'x', value: null }, { op: 'set', topic, field: 'y', value: null })
  })
  return { changes, made: moving }
}

/** Moves a selection one place up or down among its siblings; at the end of the line it stays. */
export function moveAlong(tree: Tree, ids: Iterable<TopicId>, by: -1 | 1): Step {
  const moving = movable(tree, ids)
  const edge = by < 0 ? moving[0] : moving.at(-1)
  if (edge === undefined) return NOTHING
  const parent = topicOf(tree, edge).parent
  if (moving.some(id => topicOf(tree, id).parent !== parent)) return NOTHING
  const siblings = childrenOf(tree, parent)
  // On both sides of the centre, the neighbour is the next one on the same side.
  const side = parent === tree.centre ? topicOf(tree, edge).side : null
  let at = siblings.indexOf(edge) + by
  while (
    at >= 0 &&
    at < siblings.length &&
    (moving.includes(siblings[at]!) ||
      (side && topicOf(tree, siblings[at]!).side === (side === 'left' ? 'right' : 'left')))
  )
    at += by
  if (at < 0 || at >= siblings.length) return NOTHING
  return moveTo(tree, moving, { parent, index: by < 0 ? at : at + 1 })
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
  const { parent, side } = topicOf(tree, first)
  const siblings = childrenOf(tree, parent)
  let at = siblings.indexOf(first) - 1
  if (parent === tree.centre && side) while (at >= 0 && topicOf(tree, siblings[at]!).side !== side) at--
  const target = siblings[at]
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

/**
 * Plants items in a slot. Below the centre, branches that name no side take the slot's, or else share out
 * so that both sides are about as tall.
 */
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
  const sided = slot.parent === tree.centre ? withSides(tree, placeless, slot.side ?? null) : placeless
  const { changes, tops } = plant(sided, slot.parent, keys, newId)
  return { changes: [...aside, ...changes], made: tops }
}

function withSides(tree: Tree, items: readonly OutlineItem[], side: Side | null): OutlineItem[] {
  const standing = childrenOf(tree, tree.centre)
  const sides = balanceSides(
    [...standing.map(id => countItems([toOutline(tree, id)])), ...items.map(item => countItems([item]))],
    [...standing.map(id => topicOf(tree, id).side ?? 'right'), ...items.map(item => item.details?.side ?? side)],
  )
  return items.map((item, i) => ({ ...item, details: { ...item.details, side: sides[standing.length + i]! } }))
}
