import { topicOf, type Tree } from '../tree/tree'
import type { TopicId } from '../tree/topic'
import type { Layout, Placed } from './layout'

export type Direction = 'up' | 'down' | 'left' | 'right'

/**
 * The topic that somebody means by an arrow key, going by what they see: outward to the child nearest in height, inward to the
 * parent, up and down to the nearest plank in about the same column, whoever its parent is. Null at the edge.
 */
export function neighbourOf(tree: Tree, layout: Layout, id: TopicId, direction: Direction): TopicId | null {
  const at = layout.find(id)
  if (!at) return null
  return direction === 'left' || direction === 'right' ? across(tree, layout, at, direction) : along(layout, at, direction)
}

function across(tree: Tree, layout: Layout, at: Placed, direction: 'left' | 'right'): TopicId | null {
  const isCentre = at.id === tree.centre
  if (!isCentre && direction !== at.direction) return topicOf(tree, at.id).parent
  const middle = at.y + at.height / 2
  let best: TopicId | null = null
  let least = Infinity
  for (const kid of layout.shown(at.id)) {
    const placed = layout.find(kid)
    if (!placed || (isCentre && placed.direction !== direction)) continue
    const away = Math.abs(placed.y + placed.height / 2 - middle)
    if (away < least) {
      least = away
      best = kid
    }
  }
  return best
}

/** How far up or down is looked, in canvas units: near first, then far. */
const REACHES = [400, 4000] as const

function along(layout: Layout, at: Placed, direction: 'up' | 'down'): TopicId | null {
  const sign = direction === 'up' ? -1 : 1
  const middle = at.y + at.height / 2
  const edge = (placed: Placed): number => at.direction === 'right' ? placed.x : placed.x + placed.width
  let best: TopicId | null = null
  let least = Infinity
  for (const reach of REACHES) {
    layout.scan({ x: at.x - reach / 4, y: sign < 0 ? middle - reach : middle, width: at.width + reach / 2, height: reach }, 0, {
      plank(placed) {
        const away = sign * (placed.y + placed.height / 2 - middle)
        if (placed.id === at.id || away <= 0.5) return
        const aside = Math.max(0, placed.x - at.x - at.width, at.x - placed.x - placed.width)
        const cost = away + aside * 2 + Math.abs(edge(placed) - edge(at)) * 0.25
        if (cost < least) {
          least = cost
          best = placed.id
        }
      },
      line() {}, block() {},
    })
    if (best) return best
  }
  return null
}
