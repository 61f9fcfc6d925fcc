import type { TopicId } from '../tree/topic'
import { type Grove, type Ground, type GroveOnlooker, MOST_BARS } from './grove'
import { type Extents, meets, type Placed, type Rect } from './place'
import { halfOf, plankAt, type Spot } from './standing'

const GAP = 14

interface Cell {
  readonly id: TopicId
  kids: readonly Cell[]
  /** Its middle, from its parent's. */
  dx: number
  dy: number
  /** How far it and what hangs from it reach from its middle, */
  left: number
  right: number
  top: number
  bottom: number
  /** how far its own drawing does, */
  own: Extents
  /** and how many planks that are. */
  count: number
  fresh: boolean
}

type PlaceOf = (id: TopicId) => { readonly dx: number; readonly dy: number } | null

/**
 * By hand: each topic stands where somebody put it, counted from its parent, so that a branch moves as one. A topic
 * that nobody has placed yet stands below its elder sibling's branch, or beside its parent when it's the first.
 */
export class HandGrove implements Grove {
  private readonly cells = new Map<TopicId, Cell>()

  constructor(
    private readonly ground: Ground,
    private readonly placeOf: PlaceOf,
  ) {}

  touch(ids: Iterable<TopicId>): void {
    for (const id of ids) {
      const cell = this.cells.get(id)
      if (cell) cell.fresh = false
    }
  }

  forget(): void {
    this.cells.clear()
  }

  settle(): Extents {
    const { left, right, top, bottom } = this.cellOf(this.ground.root)
    return { left, right, top, bottom }
  }

  private cellOf(id: TopicId): Cell {
    let cell = this.cells.get(id)
    if (cell?.fresh) return cell
    if (!cell)
      this.cells.set(
        id,
        (cell = {
          id,
          kids: [],
          dx: 0,
          dy: 0,
          left: 0,
          right: 0,
          top: 0,
          bottom: 0,
          own: NOWHERE,
          count: 1,
          fresh: false,
        }),
      )
    const { ground } = this
    const { width, height } = ground.size(id)
    // The root's own frame is this grove, so its reach is its plank.
    cell.own = id === ground.root ? halfOf({ width, height }) : ground.extents(id)
    let { left, right, top, bottom } = cell.own
    let free = -height / 2
    let elder: number | null = null
    const kids: Cell[] = []
    cell.count = 1
    for (const at of ground.kids(id)) {
      const kid = this.cellOf(at)
      const place = this.placeOf(at)
      kid.dx = place?.dx ?? (elder === null ? width / 2 + GAP * 3 * ground.along : elder) + kid.own.left
      kid.dy = place?.dy ?? free + kid.own.top
      free = kid.dy + kid.bottom + GAP * ground.across
      elder = kid.dx - ground.size(at).width / 2
      left = Math.max(left, kid.left - kid.dx)
      right = Math.max(right, kid.right + kid.dx)
      top = Math.max(top, kid.top - kid.dy)
      bottom = Math.max(bottom, kid.bottom + kid.dy)
      cell.count += kid.count
      kids.push(kid)
    }
    // What went elsewhere isn't heard of any more: it begins anew when it comes back.
    const now = new Set(kids)
    for (const kid of cell.kids) if (!now.has(kid)) this.drop(kid)
    Object.assign(cell, { kids, left, right, top, bottom, fresh: true })
    return cell
  }

  private drop(cell: Cell): void {
    this.cells.delete(cell.id)
    for (const kid of cell.kids) this.drop(kid)
  }

  find(steps: readonly TopicId[]): Placed | null {
    let [dx, dy] = [0, 0]
    let cell = this.cells.get(this.ground.root)
    for (const step of steps) {
      cell = cell?.kids.find(kid => kid.id === step)
      if (!cell) return null
      dx += cell.dx
      dy += cell.dy
    }
    return cell ? plankAt(cell.id, this.ground.size(cell.id), { dx, dy, direction: directionOf(cell.dx) }) : null
  }

  scan(view: Rect, grain: number, onlooker: GroveOnlooker): void {
    const root = this.cells.get(this.ground.root)
    if (!root) return
    // Far out, where brackets are finer than a pixel and planks lie side by side, a share of them looks like all of
    // them.
    const stride = grain > 0 ? Math.ceil(root.count / MOST_BARS) : 1
    let seen = 0
    const show = (cell: Cell, x: number, y: number, level: number): void => {
      const whole = { x: x - cell.left, y: y - cell.top, width: cell.left + cell.right, height: cell.top + cell.bottom }
      if (!meets(view, whole)) return
      if (cell.kids.length > 0 && whole.height < grain && whole.width < grain * 20) {
        onlooker.block(whole, cell.id)
        return
      }
      if (stride === 1) this.showLines(view, cell, x, y, onlooker)
      const { own } = cell
      // The big titles are written over the bars, so the first level is never left out.
      if (
        level > 0 &&
        meets(view, { x: x - own.left, y: y - own.top, width: own.left + own.right, height: own.top + own.bottom }) &&
        (level === 1 || seen++ % stride === 0)
      ) {
        const placed = plankAt(cell.id, this.ground.size(cell.id), { dx: x, dy: y, direction: directionOf(cell.dx) })
        if (this.ground.isNested(cell.id)) onlooker.frame(placed)
        else onlooker.plank(placed)
      }
      for (const kid of cell.kids) show(kid, x + kid.dx, y + kid.dy, level + 1)
    }
    show(root, 0, 0, 0)
  }

  /** Those of a cell's children that stand side by side in a row below it, as they do downward. */
  private rowOf(cell: Cell): ReadonlySet<Cell> {
    const tops = new Map<number, Cell[]>()
    for (const kid of cell.kids) {
      const top = Math.round(kid.dy - this.ground.size(kid.id).height / 2)
      if (top <= this.ground.size(cell.id).height / 2 + 4) continue
      const beside = tops.get(top) ?? tops.get(top - 1) ?? tops.get(top + 1)
      if (beside) beside.push(kid)
      else tops.set(top, [kid])
    }
    return new Set([...tops.values()].filter(kids => kids.length > 1).flat())
  }

  private showLines(view: Rect, cell: Cell, x: number, y: number, onlooker: GroveOnlooker): void {
    if (cell.kids.length === 0) return
    const from = { x, y, ...this.ground.size(cell.id) }
    const row = this.rowOf(cell)
    for (const kid of cell.kids) {
      const to = { x: x + kid.dx, y: y + kid.dy }
      if (
        !meets(view, {
          x: Math.min(x, to.x) - 1,
          y: Math.min(y, to.y) - 1,
          width: Math.abs(kid.dx) + 2,
          height: Math.abs(kid.dy) + 2,
        })
      )
        continue
      onlooker.line(kid.id, elbow(from, { ...to, ...this.ground.size(kid.id) }, row.has(kid)))
    }
  }
}

const NOWHERE: Extents = { left: 0, right: 0, top: 0, bottom: 0 }

function directionOf(dx: number): Spot['direction'] {
  return dx < 0 ? 'left' : 'right'
}

/**
 * From one plank's edge to the other's by straight pieces: sideways where they stand beside each other, else downward, and
 * downward to all of a row. `x`, `y` are middles.
 */
function elbow(
  from: { x: number; y: number; width: number; height: number },
  to: typeof from,
  isInRow: boolean,
): number[] {
  const sideways = Math.abs(to.x - from.x) - (to.width + from.width) / 2
  const upright = Math.abs(to.y - from.y) - (to.height + from.height) / 2
  if (!isInRow && (sideways >= upright || sideways > 12)) {
    const sign = to.x < from.x ? -1 : 1
    const a = from.x + (sign * from.width) / 2
    const b = to.x - (sign * to.width) / 2
    const spine = a + (b - a) / 2
    return [a, from.y, spine, from.y, spine, to.y, b, to.y]
  }
  const sign = to.y < from.y ? -1 : 1
  const a = from.y + (sign * from.height) / 2
  const b = to.y - (sign * to.height) / 2
  const spine = a + (b - a) / 2
  return [from.x, a, from.x, spine, to.x, spine, to.x, b]
}
