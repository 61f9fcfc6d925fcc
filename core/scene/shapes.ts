import type { Face } from '../arrange/plank'
import type { Rect } from '../arrange/place'

/* What a picture is made of: few kinds of shapes, in canvas units, from the back to the front. */

export type Shape =
  /** An SVG path (SVG 2, chapter 9). */
  | {
      readonly kind: 'path'
      readonly d: string
      readonly fill?: string
      readonly stroke?: string
      readonly width?: number
      readonly dash?: readonly number[]
      readonly round?: boolean
      readonly opacity?: number
    }
  /** One line of text. `x` is its left end, `y` its foot; `width` as it was measured. */
  | {
      readonly kind: 'text'
      readonly x: number
      readonly y: number
      readonly width: number
      readonly text: string
      readonly face: Face
      readonly ink: string
      readonly underlined?: boolean
      /** A rim in this colour around each letter. */
      readonly halo?: string
      readonly opacity?: number
    }
  /** A picture of the tree, by its file. */
  | { readonly kind: 'image'; readonly file: string; readonly at: Rect; readonly words: string }
  /** A drawing from the set of icons, in a square. */
  | { readonly kind: 'icon'; readonly name: string; readonly at: Rect; readonly ink: string }

/** A picture by its shapes. */
export interface Scene {
  /** What it shows, for whoever hears it. */
  readonly title: string
  readonly bounds: Rect
  /** The colour of its ground. */
  readonly ground: string
  readonly shapes: readonly Shape[]
}

/** How far letters reach above and below their foot, in parts of their size: Figtree 2.0, Bricolage Grotesque 1.0, Literata 3.1, Caveat 2.0. */
export const REACH: Readonly<Record<Face['family'], { readonly above: number; readonly below: number }>> = {
  text: { above: 0.95, below: 0.25 },
  display: { above: 0.93, below: 0.27 },
  book: { above: 1.177, below: 0.308 },
  hand: { above: 0.96, below: 0.3 },
}

/** The foot of a line of text whose box begins at `top`, as a browser sets it (CSS 2.2, section 10.8). */
export function footOf(top: number, lineHeight: number, { family, size }: Face): number {
  const { above, below } = REACH[family]
  return top + (lineHeight - (above + below) * size) / 2 + above * size
}

const round = (value: number): string => String(Math.round(value * 100) / 100)

export const rectPath = ({ x, y, width, height }: Rect): string =>
  `M${round(x)} ${round(y)}h${round(width)}v${round(height)}h${round(-width)}Z`

/** A rectangle with round corners. */
export function roundPath({ x, y, width, height }: Rect, radius: number): string {
  const r = Math.min(radius, width / 2, height / 2)
  const arc = (dx: number, dy: number): string => `a${round(r)} ${round(r)} 0 0 1 ${round(dx)} ${round(dy)}`
  return `M${round(x + r)} ${round(y)}h${round(width - 2 * r)}${arc(r, r)}v${round(height - 2 * r)}${arc(-r, r)}h${round(2 * r - width)}${arc(-r, -r)}v${round(2 * r - height)}${arc(r, -r)}Z`
}

/** A line through points: x, y, x, y … */
export const linePath = (points: readonly number[]): string =>
  points.map((value, i) => `${i % 2 ? ' ' : i === 0 ? 'M' : 'L'}${round(value)}`).join('')

export const polygonPath = (points: readonly (readonly [number, number])[]): string =>
  `${points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${round(x)} ${round(y)}`).join('')}Z`
