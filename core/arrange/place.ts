import type { TopicId } from '../tree/topic'

export interface Rect {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** Which way a plank's children lie. */
export type Direction = 'right' | 'left' | 'down'

/** A plank where it stands. (x, y) is its upper left corner; the middle of the centre is (0, 0). */
export interface Placed extends Rect {
  readonly id: TopicId
  readonly direction: Direction
}

/** How far a branch's drawing reaches from the middle of its root plank. */
export interface Extents {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}

export interface Size {
  readonly width: number
  readonly height: number
}

/** A mark on a time axis. `date` is an ISO day. */
export interface Tick {
  readonly x: number
  /** ISO 8601; of an hour with its time, "2027-06-05T07:00". */
  readonly date: string
  readonly unit: 'hour' | 'day' | 'month' | 'year' | 'today' | 'none'
}

/** Receives what is in sight: planks, the lines between them, and branches too small to tell apart as blocks. */
export interface Onlooker {
  plank(placed: Placed): void
  /** A line through points (x, y, x, y, …) in the colour of a topic. */
  line(owner: TopicId, points: readonly number[]): void
  block(rect: Rect, id: TopicId): void
  /** A time axis at height `y`, with its marks; `of`: what hangs from it is this topic's. */
  axis?(y: number, from: number, to: number, ticks: readonly Tick[], of: TopicId): void
}

/** Clear space in canvas units: between parent and child, and between siblings; wider around a centre. */
export const GAPS = { along: 34, mainAlong: 44, across: 9, mainAcross: 26, downAlong: 30, downAcross: 18 } as const

export function meets(a: Rect, b: Rect): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height
}

export function around(placed: Rect, extents: Extents): Rect {
  const x = placed.x + placed.width / 2
  const y = placed.y + placed.height / 2
  return {
    x: x - extents.left,
    y: y - extents.top,
    width: extents.left + extents.right,
    height: extents.top + extents.bottom,
  }
}

/** The middle of a plank's edge on the side its children are on. */
export function edgeOf(placed: Rect, direction: Direction): { x: number; y: number } {
  if (direction === 'down') return { x: placed.x + placed.width / 2, y: placed.y + placed.height }
  return { x: direction === 'right' ? placed.x + placed.width : placed.x, y: placed.y + placed.height / 2 }
}

/** The middle of a plank's edge on its parent's side. */
export function backOf(placed: Rect, direction: Direction): { x: number; y: number } {
  if (direction === 'down') return { x: placed.x + placed.width / 2, y: placed.y }
  return { x: direction === 'right' ? placed.x : placed.x + placed.width, y: placed.y + placed.height / 2 }
}

/** The reach of a drawing turned round, left to right. */
export const mirrored = ({ left, right, top, bottom }: Extents): Extents => ({ left: right, right: left, top, bottom })
