import type { Rect } from './place'

/*
 * How a cross-link is drawn: one quadratic curve from the edge of a plank to the edge of another, through a middle that
 * somebody may have pulled aside. Lengths in canvas units.
 */

export interface Point {
  readonly x: number
  readonly y: number
}

export interface Bow {
  readonly from: Point
  readonly to: Point
  /** The control point of the curve. */
  readonly control: Point
  /** Where the curve is halfway: there stands its label, and there it is pulled. */
  readonly middle: Point
  /** Halfway between the two planks: what a bend counts from. */
  readonly halfway: Point
}

const centre = (rect: Rect): Point => ({ x: rect.x + rect.width / 2, y: rect.y + rect.height / 2 })

/**
 * How far a line that nobody bent stands off the straight one, as a share of its length; so that it's told from a
 * bracket.
 */
const OWN_BEND = 0.12
const CLEAR = 3

/** Where the line from the middle of a rectangle towards a point leaves it, a little outside. */
export function leave(rect: Rect, towards: Point): Point {
  const { x, y } = centre(rect)
  const [dx, dy] = [towards.x - x, towards.y - y]
  if (dx === 0 && dy === 0) return { x: x + rect.width / 2 + CLEAR, y }
  const scale = Math.min(
    (rect.width / 2 + CLEAR) / (Math.abs(dx) || Number.EPSILON),
    (rect.height / 2 + CLEAR) / (Math.abs(dy) || Number.EPSILON),
  )
  return { x: x + dx * scale, y: y + dy * scale }
}

/** The curve between two planks. `bend`: how far its middle is pulled off halfway; null bends it a little by itself. */
export function bow(a: Rect, b: Rect, bend: Point | null): Bow {
  const [from, to] = [centre(a), centre(b)]
  const halfway = { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }
  const pulled = bend ?? { x: -(to.y - from.y) * OWN_BEND, y: (to.x - from.x) * OWN_BEND }
  const middle = { x: halfway.x + pulled.x, y: halfway.y + pulled.y }
  // A quadratic curve is halfway at a quarter of each end and half of its control point.
  const controlOf = (start: Point, end: Point): Point => ({
    x: 2 * middle.x - (start.x + end.x) / 2,
    y: 2 * middle.y - (start.y + end.y) / 2,
  })
  const aim = controlOf(from, to)
  const [start, end] = [leave(a, aim), leave(b, aim)]
  return { from: start, to: end, control: controlOf(start, end), middle, halfway }
}

/** A point of the curve, from 0 at its start to 1 at its end. */
export function pointOf({ from, control, to }: Bow, t: number): Point {
  const at = (a: number, b: number, c: number): number => (1 - t) ** 2 * a + 2 * t * (1 - t) * b + t ** 2 * c
  return { x: at(from.x, control.x, to.x), y: at(from.y, control.y, to.y) }
}

/** How far a point is from the curve, as near as 24 straight pieces tell. */
export function distanceTo(curve: Bow, { x, y }: Point): number {
  let least = Infinity
  let a = pointOf(curve, 0)
  for (let i = 1; i <= 24; i++) {
    const b = pointOf(curve, i / 24)
    const [dx, dy] = [b.x - a.x, b.y - a.y]
    const t = Math.max(0, Math.min(1, ((x - a.x) * dx + (y - a.y) * dy) / (dx * dx + dy * dy || 1)))
    least = Math.min(least, Math.hypot(x - a.x - t * dx, y - a.y - t * dy))
    a = b
  }
  return least
}

/** The three corners of an arrow head at an end of the curve. */
export function headAt({ from, control, to }: Bow, end: 'from' | 'to', size: number): [Point, Point, Point] {
  const tip = end === 'to' ? to : from
  const length = Math.hypot(tip.x - control.x, tip.y - control.y) || 1
  const [ux, uy] = [(tip.x - control.x) / length, (tip.y - control.y) / length]
  const back = { x: tip.x - ux * size, y: tip.y - uy * size }
  return [
    tip,
    { x: back.x - uy * size * 0.45, y: back.y + ux * size * 0.45 },
    { x: back.x + uy * size * 0.45, y: back.y - ux * size * 0.45 },
  ]
}
