import type { Placed } from '#core/arrange/place'
import type { TopicId } from '#core/tree'

const LASTS_MS = 380

/** Planks on their way from one arrangement to another, so that the eye can follow each of them. */
export class Passage {
  private from: ReadonlyMap<TopicId, { readonly x: number; readonly y: number }> = new Map()
  private began = 0
  running = false

  /** Starts from where planks stand now; at once for those who want less motion. */
  begin(planks: Iterable<{ readonly id: TopicId; readonly x: number; readonly y: number }>): void {
    if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) return
    this.from = new Map(Array.from(planks, ({ id, x, y }) => [id, { x, y }]))
    this.began = performance.now()
    this.running = this.from.size > 0
  }

  /** How far along the way, 0 to 1, eased; 1 when nothing is on its way. */
  part(now = performance.now()): number {
    if (!this.running) return 1
    const part = Math.min(1, (now - this.began) / LASTS_MS)
    if (part === 1) this.running = false
    return part < 0.5 ? 4 * part ** 3 : 1 - (-2 * part + 2) ** 3 / 2
  }

  at(placed: Placed, part: number): Placed {
    const from = this.from.get(placed.id)
    if (part === 1 || !from) return placed
    return { ...placed, x: from.x + (placed.x - from.x) * part, y: from.y + (placed.y - from.y) * part }
  }
}
