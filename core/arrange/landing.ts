import type { Slot } from '../tree/actions'
import { isTwoSided } from '../tree/split'
import { shorten } from '../tree/title'
import type { TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { isWithin, placeOf } from '../tree/walk'
import type { Direction, Layout, Placed, Rect } from './layout'
import { backOf, edgeOf, GAPS, type Size } from './place'

/** Where a dragged branch would land: the slot, its outline on the canvas, and the words for it. */
export interface Landing {
  readonly slot: Slot
  readonly place?: { readonly x: number; readonly y: number }
  /** By hand: how far each topic that moves goes, in canvas units; its parent and order stay. */
  readonly by?: { readonly x: number; readonly y: number }
  /** Lines that the outline stands on together with other planks. */
  readonly guides?: readonly { readonly x1: number; readonly y1: number; readonly x2: number; readonly y2: number }[]
  readonly rect: Rect
  /** The new bracket, from the parent to the slot; empty for a loose topic. */
  readonly bracket: readonly { readonly x: number; readonly y: number }[]
  readonly words: string
}

/** Beyond this distance from any plank, a branch becomes loose. Canvas units. */
const FAR = 130

const ordinal = new Intl.PluralRules('en', { type: 'ordinal' })
const SUFFIX: Record<string, string> = { one: 'st', two: 'nd', few: 'rd', other: 'th' }

/** "under Shelving, 2nd of 5": what a slot means, counted without the topics that are on their way. */
export function slotInWords(tree: Tree, slot: Slot, moving: ReadonlySet<TopicId>): string {
  if (slot.parent === null) return 'on its own'
  const siblings = childrenOf(tree, slot.parent)
  const before = siblings.slice(0, Math.min(slot.index, siblings.length)).filter(id => !moving.has(id)).length
  const total = siblings.filter(id => !moving.has(id)).length + Math.max(1, moving.size)
  const parent = shorten(topicOf(tree, slot.parent).title, 28)
  return total === 1
    ? `under ${parent}`
    : `under ${parent}, ${before + 1}${SUFFIX[ordinal.select(before + 1)]} of ${total}`
}

function distance(rect: Rect, x: number, y: number): number {
  const dx = Math.max(rect.x - x, 0, x - rect.x - rect.width)
  const dy = Math.max(rect.y - y, 0, y - rect.y - rect.height)
  return Math.hypot(dx, dy)
}

/** Finds the landing for a point on the canvas. `size` is the dragged plank's. */
export function landingAt(
  tree: Tree,
  layout: Layout,
  x: number,
  y: number,
  moving: ReadonlySet<TopicId>,
  size: Size,
): Landing {
  let nearest: Placed | null = null
  let best = FAR
  layout.scan({ x: x - 260, y: y - 180, width: 520, height: 360 }, 0, {
    plank(placed) {
      const away = distance(placed, x, y)
      if (away < best && ![...moving].some(id => isWithin(tree, placed.id, id))) {
        best = away
        nearest = placed
      }
    },
    line() {},
    block() {},
  })
  const target = nearest as Placed | null
  if (!target) {
    const place = { x: x - size.width / 2, y: y - size.height / 2 }
    return {
      slot: { parent: null, index: Infinity },
      place,
      rect: { ...place, ...size },
      bracket: [],
      words: 'on its own',
    }
  }
  const topic = topicOf(tree, target.id)
  const isRoot = topic.parent === null || target.id === layout.root
  const around = layout.arrangementAround(target.id)
  const direction: Direction =
    around === 'down'
      ? 'down'
      : isRoot
        ? around === 'both' || around === 'around'
          ? x < target.x + target.width / 2
            ? 'left'
            : 'right'
          : around === 'left'
            ? 'left'
            : 'right'
        : target.direction === 'down'
          ? 'right'
          : target.direction
  if (target.direction === 'down' && !isRoot) {
    const inside = x > target.x + target.width * 0.3 && x < target.x + target.width * 0.7
    const below = y > target.y + target.height * 0.75
    if (inside || (below && x >= target.x && x <= target.x + target.width))
      return asChild(tree, layout, target, direction, { x, y }, moving, size)
    return asSibling(tree, layout, target, x > target.x + target.width / 2, moving, size)
  }
  const ahead = direction === 'right' ? x > target.x + target.width * 0.75 : x < target.x + target.width * 0.25
  const within = y > target.y + target.height * 0.3 && y < target.y + target.height * 0.7
  if (isRoot || within || (ahead && y >= target.y && y <= target.y + target.height))
    return asChild(tree, layout, target, direction, { x, y }, moving, size)
  return asSibling(tree, layout, target, y > target.y + target.height / 2, moving, size)
}

/**
 * Where a new child of a topic would stand, pulled to a point: among its siblings in order, and where they stand by hand, at the very
 * point. `size` is the new plank's.
 */
export function childLandingAt(
  tree: Tree,
  layout: Layout,
  parent: TopicId,
  point: { readonly x: number; readonly y: number },
  size: Size,
): Landing | null {
  const above = layout.find(parent)
  if (!above) return null
  const around = layout.arrangementAround(parent)
  if (around === 'hand') {
    const slot: Slot = { parent, index: childrenOf(tree, parent).length }
    const corner = { x: point.x - size.width / 2, y: point.y - size.height / 2 }
    const from = { x: above.x + above.width / 2, y: above.y + above.height / 2 }
    return {
      slot,
      place: { x: Math.round(point.x - from.x), y: Math.round(point.y - from.y) },
      rect: { ...corner, ...size },
      bracket: [from, { x: point.x, y: point.y }],
      words: slotInWords(tree, slot, NONE),
    }
  }
  const isRoot = topicOf(tree, parent).parent === null || parent === layout.root
  const beside: Direction = point.x < above.x + above.width / 2 ? 'left' : 'right'
  const direction: Direction =
    around === 'down'
      ? 'down'
      : isRoot
        ? around === 'both' || around === 'around'
          ? beside
          : around === 'left'
            ? 'left'
            : 'right'
        : above.direction === 'down'
          ? 'right'
          : above.direction
  return asChild(tree, layout, above, direction, point, NONE, size)
}
const NONE: ReadonlySet<TopicId> = new Set()

/** How near a line must be to be stood on, in canvas units. */
const SNAP = 6

/**
 * Where a branch that is placed by hand would stand: moved by so much, or a little more so that an edge or middle of it
 * stands in line with another plank. Null where its parent's children aren't placed by hand.
 */
export function handLandingAt(
  tree: Tree,
  layout: Layout,
  lead: Placed,
  moved: { readonly x: number; readonly y: number },
  moving: ReadonlySet<TopicId>,
): Landing | null {
  const { parent } = topicOf(tree, lead.id)
  if (parent === null || layout.arrangementAround(parent) !== 'hand') return null
  const at = { ...lead, x: lead.x + moved.x, y: lead.y + moved.y }
  const best = {
    x: { away: SNAP, shift: 0, line: null as null | { x1: number; y1: number; x2: number; y2: number } },
    y: { away: SNAP, shift: 0, line: null as null | { x1: number; y1: number; x2: number; y2: number } },
  }
  layout.scan({ x: at.x - 700, y: at.y - 500, width: at.width + 1400, height: at.height + 1000 }, 0, {
    plank(other) {
      if ([...moving].some(id => isWithin(tree, other.id, id))) return
      for (const part of [0, 0.5, 1]) {
        const dx = other.x + other.width * part - at.x - at.width * part
        if (Math.abs(dx) < best.x.away) {
          const x = other.x + other.width * part
          best.x = {
            away: Math.abs(dx),
            shift: dx,
            line: {
              x1: x,
              x2: x,
              y1: Math.min(at.y, other.y) - 12,
              y2: Math.max(at.y + at.height, other.y + other.height) + 12,
            },
          }
        }
        const dy = other.y + other.height * part - at.y - at.height * part
        if (Math.abs(dy) < best.y.away) {
          const y = other.y + other.height * part
          best.y = {
            away: Math.abs(dy),
            shift: dy,
            line: {
              y1: y,
              y2: y,
              x1: Math.min(at.x, other.x) - 12,
              x2: Math.max(at.x + at.width, other.x + other.width) + 12,
            },
          }
        }
      }
    },
    line() {},
    block() {},
  })
  const by = { x: moved.x + best.x.shift, y: moved.y + best.y.shift }
  return {
    slot: { parent, index: placeOf(tree, lead.id) },
    by,
    guides: [best.x.line, best.y.line].filter(line => line !== null),
    rect: { x: lead.x + by.x, y: lead.y + by.y, width: lead.width, height: lead.height },
    bracket: [],
    words: 'placed by hand',
  }
}

function gapBelow(tree: Tree, layout: Layout, parent: TopicId, direction: Direction): number {
  const { along } = tree.fields
  const wide = parent === layout.root || topicOf(tree, parent).parent === null
  return ((direction === 'down' ? GAPS.downAlong : wide ? GAPS.mainAlong : GAPS.along) * along) / 100
}

function asChild(
  tree: Tree,
  layout: Layout,
  parent: Placed,
  direction: Direction,
  point: { x: number; y: number },
  moving: ReadonlySet<TopicId>,
  size: Size,
): Landing {
  const kids = layout
    .shown(parent.id)
    .map(id => layout.find(id))
    .filter((kid): kid is Placed => kid !== null && kid.direction === direction && !moving.has(kid.id))
    .sort((a, b) => (direction === 'down' ? a.x - b.x : a.y - b.y))
  const next = kids.find(kid =>
    direction === 'down' ? kid.x + kid.width / 2 > point.x : kid.y + kid.height / 2 > point.y,
  )
  const side = direction !== 'down' && isTwoSided(tree, parent.id) ? { side: direction } : {}
  if (kids.length > 0) {
    const at = next ?? kids.at(-1)!
    return asSibling(tree, layout, at, next === undefined, moving, size)
  }
  const gap = gapBelow(tree, layout, parent.id, direction)
  const rect =
    direction === 'down'
      ? { ...size, x: parent.x + parent.width / 2 - size.width / 2, y: parent.y + parent.height + gap }
      : {
          ...size,
          x: direction === 'right' ? parent.x + parent.width + gap : parent.x - gap - size.width,
          y: parent.y + parent.height / 2 - size.height / 2,
        }
  const slot: Slot = { parent: parent.id, index: childrenOf(tree, parent.id).length, ...side }
  return { slot, rect, bracket: bracketTo(parent, rect, direction, gap), words: slotInWords(tree, slot, moving) }
}

function asSibling(
  tree: Tree,
  layout: Layout,
  beside: Placed,
  after: boolean,
  moving: ReadonlySet<TopicId>,
  size: Size,
): Landing {
  const { parent } = topicOf(tree, beside.id)
  const { direction } = beside
  const later = parent !== null && layout.readsUp(parent, direction) ? !after : after
  const slot: Slot = {
    parent,
    index: placeOf(tree, beside.id) + (later ? 1 : 0),
    ...(parent !== null && direction !== 'down' && isTwoSided(tree, parent) ? { side: direction } : {}),
  }
  const rect =
    direction === 'down'
      ? {
          ...size,
          x: (after ? beside.x + beside.width + GAPS.downAcross / 2 : beside.x - GAPS.downAcross / 2) - size.width / 2,
          y: beside.y,
        }
      : {
          ...size,
          x: direction === 'right' ? beside.x : beside.x + beside.width - size.width,
          y: (after ? beside.y + beside.height + GAPS.across / 2 : beside.y - GAPS.across / 2) - size.height / 2,
        }
  const from = parent === null ? null : layout.find(parent)
  return {
    slot,
    rect,
    bracket: from ? bracketTo(from, rect, direction, gapBelow(tree, layout, from.id, direction)) : [],
    words: slotInWords(tree, slot, moving),
  }
}

function bracketTo(parent: Placed, rect: Rect, direction: Direction, gap: number): { x: number; y: number }[] {
  const from = edgeOf(parent, direction)
  const to = backOf(rect, direction)
  if (direction === 'down') {
    const spine = from.y + gap / 2
    return [from, { x: from.x, y: spine }, { x: to.x, y: spine }, to]
  }
  const spine = direction === 'right' ? from.x + gap / 2 : from.x - gap / 2
  return [from, { x: spine, y: from.y }, { x: spine, y: to.y }, to]
}
