import { z } from 'zod'

/*
 * A freehand sketch is an SVG 1.1 document of the narrowest kind: one view box, filled paths, nothing else. What may
 * stand in it is said here letter by letter, so there is nothing to clean: a script, a reference or a style has no
 * place to hide.
 */

/** Characters in a sketch at most. */
export const MOST_SKETCH = 400_000

const HEAD = /^<svg xmlns="http:\/\/www\.w3\.org\/2000\/svg" viewBox="0 0 ([1-9]\d{0,3}) ([1-9]\d{0,3})">/
const PATH = /<path fill="(#[0-9a-f]{6})" d="([MLQCZ0-9 .,-]*)"\/>/y
const TAIL = '</svg>'

export interface Stroke {
  /** sRGB, #rrggbb. */
  readonly hue: string
  /** SVG path data in absolute commands. */
  readonly d: string
}

export interface Sketch {
  readonly width: number
  readonly height: number
  readonly strokes: readonly Stroke[]
}

/** What a sketch holds; null when the text is anything but a sketch. */
export function readSketch(svg: string): Sketch | null {
  const head = svg.length <= MOST_SKETCH ? HEAD.exec(svg) : null
  if (!head || !svg.endsWith(TAIL)) return null
  const strokes: Stroke[] = []
  let at = head[0].length
  const end = svg.length - TAIL.length
  while (at < end) {
    PATH.lastIndex = at
    const path = PATH.exec(svg)
    if (!path) return null
    strokes.push({ hue: path[1]!, d: path[2]! })
    at = PATH.lastIndex
  }
  return at === end ? { width: Number(head[1]), height: Number(head[2]), strokes } : null
}

export function writeSketch({ width, height, strokes }: Sketch): string {
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}">${strokes.map(({ hue, d }) => `<path fill="${hue}" d="${d}"/>`).join('')}</svg>`
}

/**
 * The outline of a stroke as path data: through the middles between points, so that it runs smoothly. Coordinates to a
 * tenth.
 */
export function outlinePath(points: readonly (readonly [number, number])[]): string {
  if (points.length < 3) return ''
  const round = (value: number): number => Math.round(value * 10) / 10
  const parts: string[] = []
  points.forEach(([x, y], i) => {
    const [nextX, nextY] = points[(i + 1) % points.length]!
    const middle = `${round((x + nextX) / 2)} ${round((y + nextY) / 2)}`
    parts.push(i === 0 ? `M${middle}` : `Q${round(x)} ${round(y)} ${middle}`)
  })
  return `${parts.join(' ')} Z`
}

export const sketchSchema = z
  .string()
  .max(MOST_SKETCH)
  .refine(svg => readSketch(svg) !== null, 'must be a sketch: filled paths and nothing else')
