import { balanceSides } from '../tree/balance'
import type { Side, TopicId } from '../tree/topic'
import { halfOf, type Ground, type Line, reachOf, type Spot, type Standing } from './standing'
import { layOut, newPlot, type Plot } from './tidy'

const RING_GAP = 46
const ACROSS = 10
/** How far up and down a ring is used: sin 75°. */
const USED = 0.966

interface Level { width: number, tallest: number, furthest: number, radius: number }

/**
 * Around the centre: one ring a level. A topic keeps the height that the tidy tree gives it when all of a level are equally
 * long, and stands where its ring has that height; so siblings keep their order and no two planks meet.
 * Each ring is as small as its planks, and those on the ring inside it, allow. Linear in topics.
 */
export function ringArrangement(ground: Ground, sides: readonly Side[] | null): Standing {
  const gap = RING_GAP * ground.along
  const main = ground.kids(ground.root)
  const shared = sides ?? balanceSides(main.map(id => countBelow(ground, id)))
  const levels: Level[] = []
  measure(ground, main, 0, levels)
  const heights = new Map<TopicId, { y: number, level: number, direction: Side }>()
  for (const side of ['right', 'left'] as const) {
    const forest = newPlot('')
    layOut(forest, main.filter((_, i) => shared[i] === side).map(id => plotOf(ground, id, 0, levels, gap)))
    const walk = (plots: readonly Plot[], middle: number, level: number): void => {
      for (const plot of plots) {
        const y = middle + plot.offset
        heights.set(plot.id, { y, level, direction: side })
        levels[level]!.furthest = Math.max(levels[level]!.furthest, Math.abs(y))
        walk(plot.kids, y, level + 1)
      }
    }
    walk(forest.kids, 0, 0)
  }
  const root = ground.size(ground.root)
  sizeRings(levels, root, gap)
  const spots = new Map<TopicId, Spot>()
  for (const [id, { y, level, direction }] of heights) {
    const x = Math.sqrt(Math.max(0, levels[level]!.radius ** 2 - y ** 2))
    const extents = ground.extents(id)
    const { width } = ground.size(id)
    // The drawing's near edge stands on the ring; the plank is `lead` behind it when it has a frame of its own.
    const lead = direction === 'right' ? extents.left - width / 2 : extents.right - width / 2
    const middle = x + lead + width / 2
    spots.set(id, { dx: direction === 'right' ? middle : -middle, dy: y, direction })
  }
  const lines: Line[] = []
  const bracket = (parent: TopicId, level: number): void => {
    const kids = ground.kids(parent)
    for (const side of ['right', 'left'] as const) arc(ground, spots, parent, kids.filter(id => spots.get(id)?.direction === side), side, levels[level]?.radius ?? 0, gap, lines)
    for (const kid of kids) bracket(kid, level + 1)
  }
  bracket(ground.root, 0)
  return { spots, lines, extents: reachOf(halfOf(root), spots, id => ground.extents(id)) }
}

function countBelow(ground: Ground, id: TopicId): number {
  return ground.kids(id).reduce((sum, kid) => sum + countBelow(ground, kid), 1)
}

function measure(ground: Ground, ids: readonly TopicId[], level: number, levels: Level[]): void {
  if (ids.length === 0) return
  const at = levels[level] ??= { width: 0, tallest: 0, furthest: 0, radius: 0 }
  for (const id of ids) {
    const { left, right, top, bottom } = ground.extents(id)
    at.width = Math.max(at.width, left + right)
    at.tallest = Math.max(at.tallest, 2 * top, 2 * bottom)
    measure(ground, ground.kids(id), level + 1, levels)
  }
}

function plotOf(ground: Ground, id: TopicId, level: number, levels: readonly Level[], gap: number): Plot {
  const plot = newPlot(id)
  const { top, bottom } = ground.extents(id)
  plot.along = levels[level]!.width
  plot.across = 2 * Math.max(top, bottom)
  plot.gapAlong = gap
  plot.gapAcross = ACROSS * ground.across
  return layOut(plot, ground.kids(id).map(kid => plotOf(ground, kid, level + 1, levels, gap)))
}

/** Each ring wide enough for its planks' heights, and far enough from the ring inside it at every height they use. */
function sizeRings(levels: readonly Level[], root: { width: number, height: number }, gap: number): void {
  let inner = { radius: Math.hypot(root.width, root.height) / 2, width: 0, furthest: root.height / 2, tallest: root.height }
  for (const level of levels) {
    level.radius = Math.max(inner.radius + inner.width + gap, level.furthest / USED)
    const step = (inner.tallest + level.tallest) / 2
    for (let tries = 0; tries < 200 && tooNear(inner, level.radius, step, gap / 3); tries++) level.radius += gap / 2
    inner = level
  }
}

function tooNear(inner: Level, radius: number, step: number, clear: number): boolean {
  for (let i = 0; i <= 32; i++) {
    const y = (inner.furthest * i) / 32
    const beyond = y + step
    if (beyond >= radius) return true
    if (Math.sqrt(radius ** 2 - beyond ** 2) - Math.sqrt(Math.max(0, inner.radius ** 2 - y ** 2)) < inner.width + clear) return true
  }
  return false
}

/** The bracket: a stub from the parent, an arc as long as from the first to the last child, a tick to each. */
function arc(ground: Ground, spots: ReadonlyMap<TopicId, Spot>, parent: TopicId, kids: readonly TopicId[], side: Side, radius: number, gap: number, lines: Line[]): void {
  if (kids.length === 0) return
  const sign = side === 'right' ? 1 : -1
  const rim = radius - gap / 2
  const from = parent === ground.root ? { dx: 0, dy: 0 } : spots.get(parent)!
  const edge = { x: from.dx + (sign * ground.size(parent).width) / 2, y: from.dy }
  // Stubs and ticks lie flat: they meet the arc at their own height, as far as it reaches.
  const angleAt = (y: number): number => Math.asin(Math.min(0.999, Math.max(-0.999, y / rim)))
  const angles = [angleAt(edge.y)]
  for (const kid of kids) {
    const spot = spots.get(kid)!
    const near = { x: spot.dx - (sign * ground.size(kid).width) / 2, y: spot.dy }
    const angle = angleAt(near.y)
    angles.push(angle)
    lines.push({ owner: kid, points: [sign * rim * Math.cos(angle), rim * Math.sin(angle), near.x, near.y] })
  }
  const stub = angles[0]!
  lines.push({ owner: parent, points: [edge.x, edge.y, sign * rim * Math.cos(stub), rim * Math.sin(stub)] })
  const low = Math.min(...angles)
  const high = Math.max(...angles)
  const steps = Math.max(1, Math.ceil((high - low) / 0.06))
  const points: number[] = []
  for (let i = 0; i <= steps; i++) {
    const angle = low + ((high - low) * i) / steps
    points.push(sign * rim * Math.cos(angle), rim * Math.sin(angle))
  }
  if (high > low) lines.push({ owner: parent, points })
}
