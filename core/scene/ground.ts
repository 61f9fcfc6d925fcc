import type { Rect, Direction } from '../arrange/place'
import { groundAndInk, colourIn, type Wear } from '../dress/wear'
import { mix } from '../dress/colour'
import type { Style } from '../tree/style'
import { polygonPath, rectPath, roundPath, type Shape } from './shapes'

/** What a plank stands on: its ground, edge and border, each shape as the style sheet draws it. */
export interface Standing {
  readonly rect: Rect
  readonly direction: Direction
  readonly centre: boolean
  readonly style: Style
  readonly hue: string
  readonly rim: string
  readonly ground: string
  readonly wear: Wear
  readonly hairline: string
}

/** The colours of a plank: ground, letters and rim. */
export function coloursOf(
  wear: Wear,
  style: Style,
  hue: string,
  { centre, done, fern }: { readonly centre: boolean; readonly done: boolean; readonly fern: string },
): { readonly ground: string; readonly ink: string; readonly rim: string } {
  const { ground, ink } = groundAndInk(wear, style.fill ?? (centre ? wear.centre : null), style.ink)
  const rim = style.edge ? colourIn(wear, style.edge) : style.fill ? ground : hue
  return { ground, ink, rim: done ? fern : rim }
}

const WIDTHS = { thin: 1, thick: 3, dashed: 1.5, double: 4 } as const
/** How much of the branch's colour tints the ground of a shape that has no fill of its own. */
const TINT = { tag: 0.16, ticket: 0.16, slate: 0.16, awning: 0.12 } as const

const inset = ({ x, y, width, height }: Rect, by: number): Rect => ({
  x: x + by,
  y: y + by,
  width: width - by * 2,
  height: height - by * 2,
})

export function groundShapes({ rect, direction, centre, style, hue, rim, ground, wear, hairline }: Standing): Shape[] {
  const { shape, border } = style
  const { x, y, width, height } = rect
  const tint = shape !== null && shape in TINT && style.fill === null ? TINT[shape as keyof typeof TINT] : 0
  const fill = tint > 0 ? mix(ground, hue, tint) : ground
  if (!shape && !border) {
    if (centre) return [{ kind: 'path', d: rectPath(rect), fill }]
    const edge = Math.max(2, wear.line * 1.9)
    const bar: Rect =
      direction === 'down'
        ? { x, y, width, height: edge }
        : { x: direction === 'left' ? x + width - edge : x, y, width: edge, height }
    return [
      { kind: 'path', d: rectPath({ x, y: y + 1, width, height }), fill: hairline },
      { kind: 'path', d: rectPath(inset(rect, -0.5)), fill: hairline },
      { kind: 'path', d: rectPath(rect), fill },
      { kind: 'path', d: rectPath(bar), fill: rim },
    ]
  }
  const made: Shape[] = []
  const outline = (by: number): string => outlineOf(rect, by, shape, direction)
  made.push({ kind: 'path', d: outline(0), fill })
  const width0 = border ? WIDTHS[border] : shape === 'box' || shape === 'round' ? 1.5 : 0
  if (width0 > 0) {
    const stroke = (by: number, thick: number, dash?: readonly number[]): Shape => ({
      kind: 'path',
      d: outline(by),
      stroke: rim,
      width: thick,
      ...(dash ? { dash } : {}),
    })
    if (border === 'double') made.push(stroke(0.65, 1.3), stroke(3.35, 1.3))
    else made.push(stroke(width0 / 2, width0, border === 'dashed' ? [4.5, 3] : undefined))
  }
  if (shape === 'slate') made.push({ kind: 'path', d: rectPath({ x, y, width: 3, height }), fill: rim })
  if (shape === 'awning') made.push({ kind: 'path', d: rectPath({ x, y, width, height: 4 }), fill: rim })
  return made
}

/** The outline of a shape, drawn in from its edge by some units. */
function outlineOf(rect: Rect, by: number, shape: Style['shape'], direction: Direction): string {
  const at = inset(rect, by)
  const { x, y, width, height } = at
  const [right, bottom, middle] = [x + width, y + height, y + height / 2]
  switch (shape) {
    case 'round':
      return roundPath(at, Math.max(0, 11 - by))
    case 'tag':
      return polygonPath(
        direction === 'left'
          ? [
              [right, y],
              [x + 12, y],
              [x, middle],
              [x + 12, bottom],
              [right, bottom],
            ]
          : [
              [x, y],
              [right - 12, y],
              [right, middle],
              [right - 12, bottom],
              [x, bottom],
            ],
      )
    case 'ticket':
      return `M${x} ${y}H${right}V${middle - 6}A6 6 0 0 0 ${right} ${middle + 6}V${bottom}H${x}V${middle + 6}A6 6 0 0 0 ${x} ${middle - 6}Z`
    case 'awning': {
      // Scallops of 16 units along the foot, the last one cut by the edge.
      const foot = bottom - 6
      const scallops: string[] = []
      const whole = Math.floor(width / 16)
      const rest = width - whole * 16
      if (rest > 0.5) {
        // An ellipse of half axes 8 and 6 about the middle of a scallop that begins at x + whole × 16.
        const reach = Math.sqrt(Math.max(0, 1 - ((rest - 8) / 8) ** 2)) * 6
        scallops.push(`V${foot + (rest > 0 ? reach : 0)}A8 6 0 0 1 ${x + whole * 16} ${foot}`)
      }
      for (let i = whole; i > 0; i--) scallops.push(`A8 6 0 0 1 ${x + (i - 1) * 16} ${foot}`)
      return `M${x} ${y}H${right}V${foot}${scallops.join('')}Z`
    }
    default:
      return rectPath(at)
  }
}
