import type { Rect } from '#core/arrange/place'
import { type Axis, tickInWords, UNDER, underMarks } from '#core/scene/axis'
import type { Wear } from '#core/dress/wear'
import type { Viewport } from './viewport'

/**
 * What is drawn under the planks: brackets, blocks, time axes, and far out the planks themselves as bars. Gathers by
 * colour while the layout is scanned, and draws each colour in one go.
 */
export class Paper {
  private lines = new Map<string, Path2D>()
  private faint = new Map<string, Path2D>()
  private bars = new Map<string, Rect[]>()
  private axes: Axis[] = []

  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly view: Viewport,
  ) {}

  line(colour: string, points: readonly number[], dim: boolean): void {
    const paths = dim ? this.faint : this.lines
    let path = paths.get(colour)
    if (!path) paths.set(colour, (path = new Path2D()))
    path.moveTo(points[0]!, points[1]!)
    for (let i = 2; i < points.length; i += 2) path.lineTo(points[i]!, points[i + 1]!)
  }

  bar(colour: string, rect: Rect): void {
    const list = this.bars.get(colour)
    if (list) list.push(rect)
    else this.bars.set(colour, [rect])
  }

  axis(axis: Axis): void {
    this.axes.push(axis)
  }

  /** Draws what was gathered. `alpha` fades the brackets while planks are on their way. */
  draw(wear: Wear, quiet: string, sun: string, alpha: number): void {
    const { context, view } = this
    const ratio = window.devicePixelRatio || 1
    context.setTransform(ratio, 0, 0, ratio, 0, 0)
    context.clearRect(0, 0, view.width, view.height)
    context.setTransform(ratio * view.zoom, 0, 0, ratio * view.zoom, ratio * view.x, ratio * view.y)
    context.lineWidth = Math.max(wear.line, 0.7 / view.zoom)
    for (const [paths, strength] of [
      [this.faint, 0.25],
      [this.lines, 1],
    ] as const) {
      context.globalAlpha = alpha * strength
      for (const [colour, path] of paths) {
        context.strokeStyle = colour
        context.stroke(path)
      }
    }
    context.globalAlpha = 0.55
    for (const [colour, rects] of this.bars) {
      context.fillStyle = colour
      for (const rect of rects) context.fillRect(rect.x, rect.y, rect.width, Math.max(rect.height, 1 / view.zoom))
    }
    context.globalAlpha = alpha
    for (const axis of this.axes) this.drawAxis(axis, wear, quiet, sun)
    context.globalAlpha = 1
  }

  private drawAxis({ y, from, to, ticks, under }: Axis, wear: Wear, quiet: string, sun: string): void {
    const { context, view } = this
    const unit = 1 / view.zoom
    context.strokeStyle = context.fillStyle = quiet
    context.lineWidth = Math.max(2, unit)
    context.beginPath()
    context.moveTo(from, y)
    context.lineTo(to, y)
    context.stroke()
    context.font = `600 ${Math.max(11.5, 10 * unit)}px "Figtree Variable", system-ui`
    context.textBaseline = 'alphabetic'
    let free = -Infinity
    for (const tick of ticks) {
      const isToday = tick.unit === 'today'
      context.strokeStyle = context.fillStyle = isToday ? sun : quiet
      context.beginPath()
      context.moveTo(tick.x, y - 7)
      context.lineTo(tick.x, y + (isToday ? 14 : 5))
      context.stroke()
      const words = tickInWords(tick)
      const width = context.measureText(words).width
      if (isToday) {
        context.fillStyle = wear.ink
        context.fillText(words, tick.x + 4, y + 26)
      } else if (tick.x > free) {
        context.fillText(words, tick.x - (tick.unit === 'none' ? 0 : 2), y - 11)
        free = tick.x + width + 14
      }
    }
    if (!under) return
    context.fillStyle = wear.ink
    for (const { x, text } of underMarks(ticks, under, words => context.measureText(words).width))
      context.fillText(text, x - 2, y + UNDER)
  }
}
