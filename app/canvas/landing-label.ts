import { firstFree } from '#core/arrange/free'
import type { Landing } from '#core/arrange/landing'
import type { Layout } from '#core/arrange/layout'

/** About how wide a letter of the label is, and how high the label, px. */
const LETTER = 6.6
const HIGH = 19
/** How many lines away from the slot it may stand. */
const FURTHER = [0, 1, 2, 3, 4, 5]

/**
 * How the words of a landing stand by its slot: as large on the screen at any zoom, below it, above it or at either end,
 * wherever they lie over no title; below where there is no such place. A style for an element within the slot.
 */
export function labelPlace(layout: Layout, { rect }: Landing, words: string, zoom: number): Record<string, string> {
  const [wide, high, gap] = [(words.length * LETTER + 16) / zoom, HIGH / zoom, 3 / zoom]
  const [outer, inner] = [rect.width + gap, -wide - gap]
  const places = [
    { x: -2, y: rect.height + gap },
    { x: -2, y: -high - gap },
    { x: outer, y: (rect.height - high) / 2 },
    { x: inner, y: (rect.height - high) / 2 },
    // Further off, a line at a time.
    ...FURTHER.flatMap(lines =>
      [outer, inner, -2].flatMap(x => [
        { x, y: rect.height + gap + lines * high },
        { x, y: -high - gap - lines * high },
      ]),
    ),
  ].map(({ x, y }) => ({ x: rect.x + x, y: rect.y + y, width: wide, height: high }))
  const at = firstFree(layout, places) ?? places[0]!
  return {
    left: `${at.x - rect.x}px`,
    top: `${at.y - rect.y}px`,
    transform: `scale(${1 / zoom})`,
    transformOrigin: '0 0',
  }
}
