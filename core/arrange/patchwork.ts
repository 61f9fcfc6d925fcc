import type { Rect } from './place'

interface Patch<T> {
  readonly item: T
  readonly x1: number
  readonly y1: number
  readonly x2: number
  readonly y2: number
  seen: number
}

/** The side of a square of the patchwork, in canvas units: about what a screen shows. */
const SIDE = 900
/** What covers more squares than this is looked at each time instead of being listed in all of them. */
const LARGE = 60

/** Things with a place, by the squares they lie on, so that what is in sight is found without looking at the rest. */
export class Patchwork<T> {
  private readonly squares = new Map<string, Patch<T>[]>()
  private readonly large: Patch<T>[] = []
  private readonly all: Patch<T>[] = []
  private round = 0

  /** Boxes as [left, top, right, bottom]. */
  constructor(items: Iterable<readonly [T, readonly [number, number, number, number]]>) {
    for (const [item, [x1, y1, x2, y2]] of items) {
      const patch: Patch<T> = { item, x1, y1, x2, y2, seen: 0 }
      this.all.push(patch)
      const [left, top, right, bottom] = [x1, y1, x2, y2].map(value => Math.floor(value / SIDE)) as [
        number,
        number,
        number,
        number,
      ]
      if ((right - left + 1) * (bottom - top + 1) > LARGE) {
        this.large.push(patch)
        continue
      }
      for (let column = left; column <= right; column++) {
        for (let row = top; row <= bottom; row++) {
          const key = `${column} ${row}`
          const list = this.squares.get(key)
          if (list) list.push(patch)
          else this.squares.set(key, [patch])
        }
      }
    }
  }

  get size(): number {
    return this.all.length
  }

  /**
   * Shows each thing that meets the view once. With a `stride` above 1, only every so-manieth of what lies in the
   * squares.
   */
  visit(view: Rect, see: (item: T) => void, stride = 1): void {
    const round = ++this.round
    const [x1, y1, x2, y2] = [view.x, view.y, view.x + view.width, view.y + view.height]
    let count = 0
    const look = (patches: readonly Patch<T>[]): void => {
      for (const patch of patches) {
        if (patch.seen === round || patch.x1 > x2 || patch.x2 < x1 || patch.y1 > y2 || patch.y2 < y1) continue
        patch.seen = round
        if (count++ % stride === 0) see(patch.item)
      }
    }
    const columns = Math.floor(x2 / SIDE) - Math.floor(x1 / SIDE) + 1
    const rows = Math.floor(y2 / SIDE) - Math.floor(y1 / SIDE) + 1
    if (columns * rows >= this.squares.size) {
      look(this.all)
      return
    }
    look(this.large)
    for (let column = Math.floor(x1 / SIDE); column < Math.floor(x1 / SIDE) + columns; column++) {
      for (let row = Math.floor(y1 / SIDE); row < Math.floor(y1 / SIDE) + rows; row++) {
        const list = this.squares.get(`${column} ${row}`)
        if (list) look(list)
      }
    }
  }
}
