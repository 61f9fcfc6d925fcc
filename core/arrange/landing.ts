import type { Slot } from '../tree/actions'
import { shorten } from '../tree/title'
import type { Side, TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { isWithin, placeOf } from '../tree/walk'
import { GAPS, type Layout, type Placed, type Rect } from './layout'

/** Where a dragged branch would land: the slot, its outline on the canvas, and the words for it. */
export interface Landing {
  readonly slot: Slot
  readonly place?: { readonly x: number, readonly y: number }
  readonly rect: Rect
  /** The new bracket, from the parent to the slot; empty for a loose topic. */
  readonly bracket: readonly { readonly x: number, readonly y: number }[]
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
  const total = siblings.filter(id => !moving.has(id)).length + moving.size
  const parent = shorten(topicOf(tree, slot.parent).title, 28)
  return total === 1 ? `under ${parent}` : `under ${parent}, ${before + 1}${SUFFIX[ordinal.select(before + 1)]} of ${total}`
}

function distance(rect: Rect, x: number, y: number): number {
  const dx = Math.max(rect.x - x, 0, x - rect.x - rect.width)
  const dy = Math.max(rect.y - y, 0, y - rect.y - rect.height)
  return Math.hypot(dx, dy)
}

/** Finds the landing for a point on the canvas. `size` is the dragged plank's. */
export function landingAt(tree: Tree, layout: Layout, x: number, y: number, moving: ReadonlySet<TopicId>, size: { width: number, height: number }): Landing {
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
    line() {}, block() {},
  })
  const target = nearest as Placed | null
  if (!target) {
    const place = { x: x - size.width / 2, y: y - size.height / 2 }
    return { slot: { parent: null, index: Infinity }, place, rect: { ...place, ...size }, bracket: [], words: 'on its own' }
  }
  const topic = topicOf(tree, target.id)
  const isRoot = topic.parent === null
  const direction: Side = target.id === tree.centre ? (x < 0 ? 'left' : 'right') : target.direction
  const ahead = direction === 'right' ? x > target.x + target.width * 0.75 : x < target.x + target.width * 0.25
  const within = y > target.y + target.height * 0.3 && y < target.y + target.height * 0.7
  if (isRoot || within || (ahead && y >= target.y && y <= target.y + target.height)) return asChild(tree, layout, target, direction, y, moving, size)
  return asSibling(tree, layout, target, y > target.y + target.height / 2, moving, size)
}

function asChild(tree: Tree, layout: Layout, parent: Placed, direction: Side, y: number, moving: ReadonlySet<TopicId>, size: { width: number, height: number }): Landing {
  const kids = layout.shown(parent.id)
    .map(id => layout.find(id))
    .filter((kid): kid is Placed => kid !== null && kid.direction === direction && !moving.has(kid.id))
  const next = kids.find(kid => kid.y + kid.height / 2 > y)
  const side = parent.id === tree.centre ? { side: direction } : {}
  if (kids.length > 0) {
    const at = next ?? kids.at(-1)!
    return asSibling(tree, layout, at, next === undefined, moving, size)
  }
  const gap = parent.id === tree.centre ? GAPS.mainAlong : GAPS.along
  const rect = { ...size, x: direction === 'right' ? parent.x + parent.width + gap : parent.x - gap - size.width, y: parent.y + parent.height / 2 - size.height / 2 }
  const slot: Slot = { parent: parent.id, index: childrenOf(tree, parent.id).length, ...side }
  return { slot, rect, bracket: bracketTo(parent, rect, direction, gap), words: slotInWords(tree, slot, moving) }
}

function asSibling(tree: Tree, layout: Layout, beside: Placed, after: boolean, moving: ReadonlySet<TopicId>, size: { width: number, height: number }): Landing {
  const { parent } = topicOf(tree, beside.id)
  const slot: Slot = { parent, index: placeOf(tree, beside.id) + (after ? 1 : 0), ...(parent === tree.centre ? { side: beside.direction } : {}) }
  const rect = {
    ...size,
    x: beside.direction === 'right' ? beside.x : beside.x + beside.width - size.width,
    y: (after ? beside.y + beside.height + GAPS.across / 2 : beside.y - GAPS.across / 2) - size.height / 2,
  }
  const from = parent === null ? null : layout.find(parent)
  return { slot, rect, bracket: from ? bracketTo(from, rect, beside.direction, parent === tree.centre ? GAPS.mainAlong : GAPS.along) : [], words: slotInWords(tree, slot, moving) }
}

function bracketTo(parent: Placed, rect: Rect, direction: Side, gap: number): { x: number, y: number }[] {
  const edge = direction === 'right' ? parent.x + parent.width : parent.x
  const spine = direction === 'right' ? edge + gap / 2 : edge - gap / 2
  const middle = rect.y + rect.height / 2
  return [{ x: edge, y: parent.y + parent.height / 2 }, { x: spine, y: parent.y + parent.height / 2 }, { x: spine, y: middle }, { x: direction === 'right' ? rect.x : rect.x + rect.width, y: middle }]
}
