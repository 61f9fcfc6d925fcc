import { align, distribute, type Line, type Moves } from '#core/arrange/align'
import {
  type Arrangement,
  branch,
  type Change,
  childrenOf,
  evenSides,
  isTwoSided,
  topicOf,
  type TopicId,
} from '#core/tree'
import { shift } from '~/capture/building'
import type { Desk } from '~/desk/desk'

/** Beyond this many topics, what isn't placed by hand yet stays where the arrangement by hand puts it. */
const MOST_FROZEN = 6000

export const ARRANGEMENT_NAMES: Readonly<Record<Arrangement, string>> = {
  both: 'Both sides',
  right: 'Rightward',
  left: 'Leftward',
  down: 'Downward',
  around: 'Around the centre',
  time: 'Along a time axis',
  hand: 'By hand',
}

/** Arranges the whole tree, or one branch of it; null lets a branch follow the tree again. */
export function arrange(desk: Desk, arrangement: Arrangement | null, at: TopicId | null = null): void {
  if (!desk.guard()) return
  const root = at ?? desk.tree.centre
  const changes: Change[] =
    root === desk.tree.centre
      ? [{ op: 'tree', field: 'arrangement', value: arrangement ?? 'both' }]
      : [{ op: 'set', topic: root, field: 'arrangement', value: arrangement }]
  // By hand everything stays where it is seen, so that the hand has something to move; places from before are kept.
  if (arrangement === 'hand') changes.unshift(...freeze(desk, root))
  desk.run({ changes })
}

const tenth = (value: number): number => Math.round(value * 10) / 10

/** The places of a branch's topics as they stand now, for those that nobody has placed yet. */
function freeze(desk: Desk, root: TopicId): Change[] {
  const changes: Change[] = []
  const { layout } = desk
  if (!layout) return changes
  for (const topic of branch(desk.tree, root)) {
    if (changes.length > MOST_FROZEN * 2) return []
    if (topic.id === root || topic.parent === null || topic.x !== null) continue
    const placed = layout.find(topic.id)
    const above = layout.find(topic.parent)
    if (!placed || !above) continue
    // To a tenth: whole units would add up along the path, and what should stay would be seen to move.
    const x = tenth(placed.x + placed.width / 2 - above.x - above.width / 2)
    const y = tenth(placed.y + placed.height / 2 - above.y - above.height / 2)
    changes.push(
      { op: 'set', topic: topic.id, field: 'x', value: x },
      { op: 'set', topic: topic.id, field: 'y', value: y },
    )
  }
  return changes
}

/** Whether the selected topics stand by hand, so that they can be aligned, spread and layered. */
export function byHand(desk: Desk): TopicId[] {
  const { layout } = desk
  if (!layout) return []
  return desk.selected().filter(id => {
    const { parent } = topicOf(desk.tree, id)
    return id !== desk.tree.centre && (parent === null || layout.arrangementAround(parent) === 'hand')
  })
}

function move(desk: Desk, moves: Moves): void {
  const { layout } = desk
  if (layout && moves.size > 0) shift(desk, moves, id => layout.find(id))
}

/** The planks of the selection in the order they were selected. */
const planks = (desk: Desk) => byHand(desk).flatMap(id => desk.layout?.find(id) ?? [])

export function alignSelection(desk: Desk, line: Line): void {
  const all = planks(desk)
  if (all.length < 2)
    desk.say('Select two topics or more that stand by hand. They line up with the one that has the focus.')
  else move(desk, align(all, line, desk.focus.value))
}

export function distributeSelection(desk: Desk, way: 'across' | 'down'): void {
  const all = planks(desk)
  if (all.length < 3) desk.say('Select three topics or more that stand by hand.')
  else move(desk, distribute(all, way))
}

export type Layer = 'front' | 'back' | 'forward' | 'backward'

/** In front of or behind all others, or one step on the way there. */
export function layer(desk: Desk, where: Layer): void {
  if (!desk.guard()) return
  const ids = byHand(desk)
  if (ids.length === 0) {
    desk.say('Only topics that stand by hand can lie in front of others.')
    return
  }
  const moving = new Set(ids)
  const others = [...desk.tree.topics.values()]
    .filter(({ id, removed }) => !moving.has(id) && !removed)
    .map(({ z }) => z)
  const sorted = [...ids].sort((a, b) => topicOf(desk.tree, a).z - topicOf(desk.tree, b).z)
  const changes = sorted.flatMap((topic, i): Change[] => {
    const { z } = topicOf(desk.tree, topic)
    const value = layerFor(where, z, others, i, ids.length)
    return value === z ? [] : [{ op: 'set', topic, field: 'z', value }]
  })
  if (changes.length === 0) desk.say('It lies there already.')
  else desk.run({ changes })
}

/** The layer that a topic moves to, the i-th of so many that move: past the next one that lies there, or past all. */
export function layerFor(where: Layer, z: number, others: readonly number[], i = 0, count = 1): number {
  const up = where === 'front' || where === 'forward'
  const beyond = others.filter(other => (up ? other >= z : other <= z))
  if (beyond.length === 0) return z
  if (where === 'front') return Math.max(...beyond) + 1 + i
  if (where === 'back') return Math.min(...beyond) - count + i
  return up ? Math.min(...beyond) + 1 : Math.max(...beyond) - 1
}

/** Splits the branches of the centre, or of a topic that stands on both sides too, where both are about equally tall. */
export function evenOut(desk: Desk, at: TopicId = desk.tree.centre): void {
  const { layout } = desk
  if (!desk.guard()) return
  if (!isTwoSided(desk.tree, at)) {
    desk.say('Only what is arranged on both sides, or around, can be evened out.')
    return
  }
  const heights = new Map<TopicId, number>()
  if (layout) for (const id of childrenOf(desk.tree, at)) heights.set(id, layout.tallness(id))
  const step = evenSides(desk.tree, at, heights)
  if (step.changes.length === 0) desk.say('The sides are as even as they can be.')
  else desk.run(step)
}

/** The space of the tree, or of a branch, in per cent of the usual. */
export interface Space {
  readonly along: number
  readonly across: number
}

export function spaceOf(desk: Desk, at: TopicId | null): Space {
  const { along, across } = desk.tree.fields
  const own = at === null ? null : desk.tree.topics.get(at)
  return { along: own?.spaceAlong ?? along, across: own?.spaceAcross ?? across }
}

/**
 * Sets the space between parent and child and between siblings; of the tree, or of one branch, which then has a frame of
 * its own, arranged as it is.
 */
export function space(desk: Desk, { along, across }: Space, at: TopicId | null): void {
  if (!desk.guard()) return
  const now = spaceOf(desk, at)
  if (now.along === along && now.across === across) return
  if (at === null) {
    desk.run({
      changes: [
        { op: 'tree', field: 'along', value: along },
        { op: 'tree', field: 'across', value: across },
      ],
    })
    return
  }
  const changes: Change[] = [
    { op: 'set', topic: at, field: 'spaceAlong', value: along },
    { op: 'set', topic: at, field: 'spaceAcross', value: across },
  ]
  const own = frameFor(desk, at)
  if (own !== null && topicOf(desk.tree, at).arrangement === null)
    changes.unshift({ op: 'set', topic: at, field: 'arrangement', value: own })
  desk.run({ changes })
}

/**
 * The arrangement by which a branch looks as it does, in a frame of its own; null where it has no other than its surroundings',
 * as on a ring, along a time axis or by hand.
 */
export function frameFor(desk: Desk, at: TopicId): Arrangement | null {
  const { arrangement } = topicOf(desk.tree, at)
  if (arrangement !== null || !desk.layout) return arrangement
  if (!['both', 'right', 'left', 'down'].includes(desk.layout.arrangementAround(at))) return null
  return desk.layout.find(at)?.direction ?? null
}
