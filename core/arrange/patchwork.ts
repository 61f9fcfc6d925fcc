import Flatbush from 'flatbush'
import type { Rect } from './place'

/** Things with a place, indexed by it once, so that what is in sight is found without looking at the rest. */
export class Patchwork<T> {
  private readonly items: T[] = []
  private readonly index: Flatbush | null

  /** Boxes as [left, top, right, bottom]. */
  constructor(items: Iterable<readonly [T, readonly [number, number, number, number]]>) {
    const boxes: (readonly [number, number, number, number])[] = []
    for (const [item, box] of items) {
      this.items.push(item)
      boxes.push(box)
    }
    this.index = boxes.length > 0 ? new Flatbush(boxes.length) : null
    for (const box of boxes) this.index!.add(...box)
    this.index?.finish()
  }

  get size(): number {
    return this.items.length
  }

  /** Shows each thing that meets the view once. With a `stride` above 1, only every so-manieth of what meets it. */
  visit({ x, y, width, height }: Rect, see: (item: T) => void, stride = 1): void {
    const found = this.index?.search(x, y, x + width, y + height).sort((a, b) => a - b) ?? []
    for (let i = 0; i < found.length; i += stride) see(this.items[found[i]!]!)
  }
}
