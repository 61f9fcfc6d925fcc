import type { Layout, Placed } from '../arrange/layout'
import type { Face, Ruler } from '../arrange/plank'
import { labelPlace, roomBetween, thread } from '../arrange/thread'
import { LABEL, notch, planksIn, pulledTo } from '../arrange/tie-way'
import type { CrossLink } from '../derive/cross-links'
import { colourIn, type Wear } from '../dress/wear'
import type { TopicId } from '../tree/topic'
import type { Tree } from '../tree/tree'
import { footOf, linePath, type Shape } from './shapes'

const LETTERS: Face = { family: 'text', size: 12, weight: 600, slanted: false }

/** Cross-links over the planks: a twisted thread with a notch at each end and its label, round what stands in the way. */
export function tieShapes(
  tree: Tree,
  links: readonly CrossLink[],
  layout: Layout,
  { hueOf, wear, ruler }: { readonly hueOf: (id: TopicId) => string; readonly wear: Wear; readonly ruler: Ruler },
): Shape[] {
  const standIn = (id: TopicId): Placed | null => {
    for (let up: TopicId | null = id; up !== null; up = tree.topics.get(up)?.parent ?? null) {
      const placed = layout.find(up)
      if (placed) return placed
    }
    return null
  }
  return links.flatMap(({ from, tie }): Shape[] => {
    const [a, b] = [standIn(from), standIn(tie.to)]
    if (!a || !b || a.id === b.id) return []
    const planks = planksIn(layout, roomBetween(a, b, tie.bend && pulledTo(a, b, tie.bend)))
    const way = thread(a, b, planks, tie.bend)
    const hue = tie.hue === null ? hueOf(from) : colourIn(wear, tie.hue)
    const faint = a.id !== from || b.id !== tie.to
    const d = linePath(way.points.flatMap(({ x, y }) => [x, y]))
    const end = (at: 'from' | 'to'): Shape => ({
      kind: 'path',
      d: `M${notch(way, at, tie.ends === at || tie.ends === 'both')
        .split(' ')
        .join('L')}Z`,
      fill: hue,
    })
    const shapes: Shape[] = [
      { kind: 'path', d, stroke: hue, width: 3.6, ...(faint ? { dash: [3, 4] } : {}) },
      { kind: 'path', d, stroke: wear.page, width: 1.2 },
      end('from'),
      end('to'),
    ]
    if (tie.label) {
      const width = ruler(tie.label, LETTERS)
      const at = labelPlace(way, LABEL.letter * tie.label.length, LABEL.line, planks)
      shapes.push({
        kind: 'text',
        x: at.x - width / 2,
        y: footOf(at.y - LABEL.line / 2, LABEL.line, LETTERS),
        width,
        text: tie.label,
        face: LETTERS,
        ink: wear.ink,
        halo: wear.page,
      })
    }
    return shapes
  })
}
