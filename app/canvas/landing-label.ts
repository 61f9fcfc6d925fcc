import { firstFree } from '#core/arrange/free'
import type { Landing } from '#core/arrange/landing'
import type { Layout } from '#core/arrange/layout'
import type { Rect } from '#core/arrange/place'

/** About how wide a letter of the label is, and how high the label, px. */
const LETTER = 6.6
const HIGH = 19
/** How many lines away from the slot it may stand. */
const FURTHEST = 6

/** How far the middle of a label, from the slot's corner, is from the slot's middle; beside it counts more than below or above. */
const awayFrom = ({ width, height }: Rect, x: number, y: number, wide: number, high: number): number =>
  Math.abs(x + wide / 2 - width / 2) / 3 + Math.abs(y + high / 2 - height / 2)

/** A stretch moved as little as brings it whole into another, `gap` clear of its ends. */
const within = (at: number, length: number, from: number, whole: number, gap: number): number =>
  Math.max(from + gap, Math.min(at, from + whole - length - gap))

/**
 * How the words of a landing stand by its slot: as large on the screen at any zoom, below it, above it or at either end,
 * wherever they lie over no title; below where there is no such place. A slot that is partly out of sight has its words in
 * sight. A style for an element within the slot.
 */
export function labelPlace(
  layout: Layout,
  { rect }: Landing,
  words: string,
  zoom: number,
  seen: Rect,
): Record<string, string> {
  const [wide, high, gap] = [(words.length * LETTER + 16) / zoom, HIGH / zoom, 3 / zoom]
  const [outer, inner] = [rect.width + gap, -wide - gap]
  const lines = Array.from({ length: FURTHEST }, (_, i) => i * high)
  const [below, above] = [rect.height + gap, -high - gap]
  // Flush with the slot at either end, or beyond an end; a line further off at a time.
  const places = [
    ...lines.flatMap(off =>
      [-2, rect.width - wide + 2].flatMap(x => [
        { x, y: below + off },
        { x, y: above - off },
      ]),
    ),
    ...[(rect.height - high) / 2, ...lines.flatMap(off => [below + off, above - off])].flatMap(y => [
      { x: outer, y },
      { x: inner, y },
    ]),
  ]
    .map(({ x, y }) => ({
      x: within(rect.x + x, wide, seen.x, seen.width, gap),
      y: within(rect.y + y, high, seen.y, seen.height, gap),
      width: wide,
      height: high,
      away: awayFrom(rect, x, y, wide, high),
    }))
    .sort((a, b) => a.away - b.away)
  const at = firstFree(layout, places) ?? places[0]!
  return {
    left: `${at.x - rect.x}px`,
    top: `${at.y - rect.y}px`,
    transform: `scale(${1 / zoom})`,
    transformOrigin: '0 0',
  }
}
