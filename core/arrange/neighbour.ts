import { topicOf, type Tree } from '../tree/tree'
import { depthOf, isWithin } from '../tree/walk'
import type { TopicId } from '../tree/topic'
import type { Direction, Layout, Placed } from './layout'

export type Arrow = 'up' | 'down' | 'left' | 'right'

const BACK = { right: 'left', left: 'right', down: 'up' } as const

/**
 * The topic that somebody means by an arrow key, going by what they see: outward to the child nearest in line, inward
 * to the parent, else to the nearest plank that way, whoever its parent is. Among topics placed by hand only nearness
 * counts. Null at the edge.
 */
export function neighbourOf(tree: Tree, layout: Layout, id: TopicId, arrow: Arrow): TopicId | null {
  const at = layout.find(id)
  if (!at) return null
  const { parent } = topicOf(tree, id)
  const above = id === layout.root ? null : parent
  if (layout.arrangementAround(id) !== 'hand' && arrow !== 'up') {
    const kid = nearestKid(layout, at, arrow)
    if (kid) return kid
  }
  // Along a time axis the arrows lead from branch to branch, and before the first of them back to where it begins.
  if (above !== null && layout.arrangementAround(above) === 'time')
    return nearest(tree, layout, at, arrow, above) ?? (arrow === 'left' ? above : null)
  if (above !== null && arrow === BACK[at.direction] && layout.arrangementAround(above) !== 'hand') return above
  // Outward from a topic without children there is nothing; a plank further on belongs to another branch.
  if (
    id !== layout.root &&
    arrow === at.direction &&
    at.direction !== 'down' &&
    layout.arrangementAround(id) !== 'hand'
  )
    return null
  return nearest(tree, layout, at, arrow)
}

function nearestKid(layout: Layout, at: Placed, arrow: 'down' | 'left' | 'right'): TopicId | null {
  let best: TopicId | null = null
  let least = Infinity
  for (const kid of layout.shown(at.id)) {
    const placed = layout.find(kid)
    if (placed?.direction !== arrow) continue
    const away =
      arrow === 'down'
        ? Math.abs(placed.x + placed.width / 2 - at.x - at.width / 2)
        : Math.abs(placed.y + placed.height / 2 - at.y - at.height / 2)
    if (away < least) {
      least = away
      best = kid
    }
  }
  return best
}

/**
 * A plank one level further in or out counts as so much further away: somebody who goes down a column means the next
 * in it, not that one's child.
 */
const OTHER_LEVEL = 1.5

/** Whether one stands on the left of a middle and the other on its right. */
const isAcross = (one: Direction, other: Direction): boolean => one !== other && one !== 'down' && other !== 'down'

/** By hand each arrow means a quarter of all around; what lies outside it is meant only when nothing lies in it. */
const isAhead = (aside: number, away: number): boolean => Math.abs(aside) <= Math.abs(away)
const ASKEW = 1e4

/** How far is looked, in canvas units: near first, then far. */
const REACHES = [400, 4000] as const

/** `among`: only children of this one count. */
function nearest(tree: Tree, layout: Layout, at: Placed, arrow: Arrow, among: TopicId | null = null): TopicId | null {
  const upright = arrow === 'up' || arrow === 'down'
  const sign = arrow === 'up' || arrow === 'left' ? -1 : 1
  const middle = { x: at.x + at.width / 2, y: at.y + at.height / 2 }
  // In a column what lines up with the near edges counts; in a row, the middles.
  const line = (placed: Placed): number =>
    !upright
      ? placed.y + placed.height / 2
      : at.direction === 'right'
        ? placed.x
        : at.direction === 'left'
          ? placed.x + placed.width
          : placed.x + placed.width / 2
  const byHand = among !== null || layout.arrangementAround(topicOf(tree, at.id).parent ?? at.id) === 'hand'
  const level = depthOf(tree, at.id)
  let best: TopicId | null = null
  let least = Infinity
  for (const reach of REACHES) {
    const view = upright
      ? { x: at.x - reach / 4, y: sign < 0 ? middle.y - reach : middle.y, width: at.width + reach / 2, height: reach }
      : { x: sign < 0 ? middle.x - reach : middle.x, y: at.y - reach / 4, width: reach, height: at.height + reach / 2 }
    layout.scan(view, 0, {
      plank(placed) {
        const dx = placed.x + placed.width / 2 - middle.x
        const dy = placed.y + placed.height / 2 - middle.y
        const away = sign * (upright ? dy : dx)
        if (placed.id === at.id || away <= 0.5 || (among && topicOf(tree, placed.id).parent !== among)) return
        const aside = upright
          ? Math.max(0, placed.x - at.x - at.width, at.x - placed.x - placed.width)
          : Math.max(0, placed.y - at.y - at.height, at.y - placed.y - placed.height)
        // Into one's own branch and back out of it lead the other arrows; to the other side leads the way through the middle.
        if (!byHand && (isWithin(tree, placed.id, at.id) || isWithin(tree, at.id, placed.id))) return
        if (!byHand && upright && isAcross(at.direction, placed.direction)) return
        const further = byHand ? 1 : 1 + OTHER_LEVEL * Math.abs(depthOf(tree, placed.id) - level)
        const cost = byHand
          ? Math.hypot(dx, dy) * (isAhead(upright ? dx : dy, upright ? dy : dx) ? 1 : ASKEW)
          : away * further + aside * 2 + Math.abs(line(placed) - line(at)) * 0.25
        if (cost < least) {
          least = cost
          best = placed.id
        }
      },
      line() {},
      block() {},
    })
    // Near by, only one of the same level is surely what's meant; by hand, what lies ahead and nearer than one looked.
    if (best && (byHand ? least <= reach / 4 : depthOf(tree, best) === level)) return best
  }
  return best
}
