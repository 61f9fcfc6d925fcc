import type { Layout, Placed } from './layout'
import type { Rect } from './place'
import type { Point, Thread } from './thread'

/* What the way of a cross-link needs to know, and its ends, on the screen and in pictures alike. */

/** About how wide a letter of a label of 12 units is, and how tall its line, in canvas units. */
export const LABEL = { letter: 6.4, line: 15 } as const

/** Where a thread that somebody pulled passes: `bend` from the middle between both planks. */
export const pulledTo = (a: Placed, b: Placed, bend: Point): Point => ({
  x: (a.x + a.width / 2 + b.x + b.width / 2) / 2 + bend.x,
  y: (a.y + a.height / 2 + b.y + b.height / 2) / 2 + bend.y,
})

/** The planks in a part of the canvas. */
export function planksIn(layout: Layout, room: Rect): Placed[] {
  const planks: Placed[] = []
  layout.scan(room, 0, { plank: placed => planks.push(placed), line() {}, block() {} })
  return planks
}

/** The notch at an end: a bar across the thread on the plank's edge, or a wedge that points into it. */
export function notch({ points }: Thread, end: 'from' | 'to', pointed: boolean): string {
  const [tip, next] = end === 'from' ? [points[0]!, points[1]!] : [points.at(-1)!, points.at(-2)!]
  const [ux, uy] = [Math.sign(next.x - tip.x), Math.sign(next.y - tip.y)]
  const at = (out: number, side: number): string => `${tip.x + ux * out - uy * side},${tip.y + uy * out + ux * side}`
  return pointed
    ? [at(8, -5.5), at(8, 5.5), at(0, 2), at(0, -2)].join(' ')
    : [at(3, -5), at(3, 5), at(0.5, 5), at(0.5, -5)].join(' ')
}
