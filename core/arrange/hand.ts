import type { TopicId } from '../tree/topic'
import { type Ground, halfOf, type Line, reachOf, type Spot, type Standing } from './standing'

const GAP = 14

/**
 * By hand: each topic stands where somebody put it, counted from its parent, so that a branch moves as one. A topic that
 * nobody has placed yet stands below its elder sibling's branch, or beside its parent when it's the first.
 */
export function handArrangement(ground: Ground, placeOf: (id: TopicId) => { readonly dx: number, readonly dy: number } | null): Standing {
  const spots = new Map<TopicId, Spot>()
  const lines: Line[] = []
  const walk = (parent: TopicId, x: number, y: number): number => {
    const { width, height } = ground.size(parent)
    let bottom = y + ground.extents(parent).bottom
    let free = y - height / 2
    let elder: number | null = null
    for (const id of ground.kids(parent)) {
      const size = ground.size(id)
      const { top, left } = ground.extents(id)
      const place = placeOf(id)
      const dx: number = place?.dx ?? (elder === null ? width / 2 + GAP * 3 * ground.along + left : elder + left)
      const dy: number = place?.dy ?? free + top - y
      const at = { x: x + dx, y: y + dy }
      spots.set(id, { dx: at.x, dy: at.y, direction: dx < 0 ? 'left' : 'right' })
      lines.push({ owner: id, points: elbow({ x, y, width, height }, { ...at, ...size }) })
      const low = walk(id, at.x, at.y)
      free = low + GAP * ground.across
      elder = dx - size.width / 2
      bottom = Math.max(bottom, low)
    }
    return bottom
  }
  walk(ground.root, 0, 0)
  return { spots, lines, extents: reachOf(halfOf(ground.size(ground.root)), spots, id => ground.extents(id)) }
}

/** From one plank's edge to the other's by straight pieces: sideways where they stand beside each other, else downward. `x`, `y` are middles. */
function elbow(from: { x: number, y: number, width: number, height: number }, to: typeof from): number[] {
  const sideways = Math.abs(to.x - from.x) - (to.width + from.width) / 2
  const upright = Math.abs(to.y - from.y) - (to.height + from.height) / 2
  if (sideways >= upright || sideways > 12) {
    const sign = to.x < from.x ? -1 : 1
    const a = from.x + (sign * from.width) / 2
    const b = to.x - (sign * to.width) / 2
    const spine = a + (b - a) / 2
    return [a, from.y, spine, from.y, spine, to.y, b, to.y]
  }
  const sign = to.y < from.y ? -1 : 1
  const a = from.y + (sign * from.height) / 2
  const b = to.y - (sign * to.height) / 2
  const spine = a + (b - a) / 2
  return [from.x, a, from.x, spine, to.x, spine, to.x, b]
}
