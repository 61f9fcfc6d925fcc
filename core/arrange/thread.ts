import type { Rect } from './place'

/*
 * How a cross-link is drawn: a thread that runs along and across like brackets, round the planks, by the shortest way that
 * has few bends. The way is looked for on the grid of lines that pass the planks' edges at a little distance, with a price for
 * each bend: among rectangles a shortest way along and across always runs on that grid. Rule: A* (Hart, Nilsson and Raphael
 * 1968), which looks towards the end first; what is left along and across never says more than the way will cost.
 * Lengths in canvas units.
 */

export interface Point {
  readonly x: number
  readonly y: number
}

export interface Thread {
  /** Corners from the edge of the one plank to the edge of the other; neighbours share an x or a y. */
  readonly points: readonly Point[]
  /** Halfway between the middles of the two planks: what a bend counts from. */
  readonly halfway: Point
  /** Whether it crosses no plank. False where there is no way round, as when its end is walled in. */
  readonly clear: boolean
}

/** The distance that a thread keeps from planks; two that stand as close as they may leave room for it. */
export const CLEAR = 4
/** What a bend costs, as a length of way. */
const BEND = 44
/** How far around the two planks it looks for a way. */
const AROUND = 260
/** Planks it goes round at most; beyond that the way would take too long to find, and the nearest count. */
const MOST = 260

const middleOf = (rect: Rect): Point => ({ x: rect.x + rect.width / 2, y: rect.y + rect.height / 2 })
const grown = ({ x, y, width, height }: Rect, by: number): Rect => ({
  x: x - by,
  y: y - by,
  width: width + 2 * by,
  height: height + 2 * by,
})

/** Where planks are asked for that may stand in the way between two. */
export function roomBetween(a: Rect, b: Rect, through: Point | null = null): Rect {
  const xs = [a.x, a.x + a.width, b.x, b.x + b.width, ...(through ? [through.x] : [])]
  const ys = [a.y, a.y + a.height, b.y, b.y + b.height, ...(through ? [through.y] : [])]
  const [x, y] = [Math.min(...xs), Math.min(...ys)]
  return grown({ x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y }, AROUND)
}

/**
 * The thread between two planks. `planks`: what it goes round, the two among them or not. `bend`: how far from halfway it
 * is pulled, if it is; it then passes there, or beside the plank that stands there.
 */
export function thread(a: Rect, b: Rect, planks: readonly Rect[], bend: Point | null = null): Thread {
  const [from, to] = [middleOf(a), middleOf(b)]
  const halfway = { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }
  const others = planks.filter(plank => !sameRect(plank, a) && !sameRect(plank, b))
  const near =
    others.length <= MOST
      ? others
      : others
          .map(plank => ({ plank, away: away(plank, a, b) }))
          .sort((x, y) => x.away - y.away)
          .slice(0, MOST)
          .map(({ plank }) => plank)
  const walls = [a, b, ...near].map(plank => grown(plank, CLEAR))
  if (!bend) {
    const way = route(exits(a), exits(b), walls)
    return way ? { points: way, halfway, clear: true } : { points: elbow(from, to), halfway, clear: false }
  }
  const through = outside({ x: halfway.x + bend.x, y: halfway.y + bend.y }, walls)
  const there = [{ at: through, edge: through }]
  const first = route(exits(a), there, walls)
  // Going back the way it came would be a loose end.
  const second = first && route(there, exits(b), walls, first.at(-2))
  if (!first || !second)
    return { points: straightened([...elbow(from, through), ...elbow(through, to)]), halfway, clear: false }
  return { points: straightened([...first, ...second.slice(1)]), halfway, clear: true }
}

export const sameRect = (a: Rect, b: Rect): boolean =>
  a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height
const away = (plank: Rect, a: Rect, b: Rect): number => {
  const at = middleOf(plank)
  return Math.min(
    ...[a, b].map(one => Math.abs(at.x - one.x - one.width / 2) + Math.abs(at.y - one.y - one.height / 2)),
  )
}

/** A place to begin or end: on the grid, and the point of the plank's edge that it belongs to. */
interface Exit {
  readonly at: Point
  readonly edge: Point
}

/** The middles of a plank's sides, and the places before them. */
function exits(plank: Rect): Exit[] {
  const { x, y } = middleOf(plank)
  const [right, bottom] = [plank.x + plank.width, plank.y + plank.height]
  return [
    { at: { x: plank.x - CLEAR, y }, edge: { x: plank.x, y } },
    { at: { x: right + CLEAR, y }, edge: { x: right, y } },
    { at: { x, y: plank.y - CLEAR }, edge: { x, y: plank.y } },
    { at: { x, y: bottom + CLEAR }, edge: { x, y: bottom } },
  ]
}

/** The nearest place that isn't within a wall; where all are within another, the nearest of those. */
function outside(point: Point, walls: readonly Rect[]): Point {
  const within = (at: Point, { x, y, width, height }: Rect): boolean =>
    at.x > x && at.x < x + width && at.y > y && at.y < y + height
  const wall = walls.find(one => within(point, one))
  if (!wall) return point
  const sides: Point[] = [
    { x: wall.x, y: point.y },
    { x: wall.x + wall.width, y: point.y },
    { x: point.x, y: wall.y },
    { x: point.x, y: wall.y + wall.height },
  ].sort((p, q) => span(p, point) - span(q, point))
  return sides.find(side => !walls.some(one => within(side, one))) ?? sides[0]!
}

const span = (a: Point, b: Point): number => Math.abs(a.x - b.x) + Math.abs(a.y - b.y)

/** Where the lines of the grid run, sorted, and the place of each. */
function linesOf(values: readonly number[]): { at: Float64Array; index: Map<number, number> } {
  const at = Float64Array.from(new Set(values)).sort()
  return { at, index: new Map(Array.from(at, (value, i) => [value, i])) }
}

/**
 * The shortest way with few bends from one of some exits to one of others, round the walls; null when there is none.
 * `from`: where a way comes from that goes on here.
 */
function route(starts: readonly Exit[], ends: readonly Exit[], walls: readonly Rect[], from?: Point): Point[] | null {
  const xs = linesOf([
    ...walls.flatMap(({ x, width }) => [x, x + width]),
    ...[...starts, ...ends].map(({ at }) => at.x),
  ])
  const ys = linesOf([
    ...walls.flatMap(({ y, height }) => [y, y + height]),
    ...[...starts, ...ends].map(({ at }) => at.y),
  ])
  const [columns, rows] = [xs.at.length, ys.at.length]
  // A stretch of the grid between neighbours lies wholly within a wall or wholly outside, since walls end on its lines.
  const across = new Uint8Array(columns * rows)
  const along = new Uint8Array(columns * rows)
  for (const { x, y, width, height } of walls) {
    const [left, right] = [xs.index.get(x)!, xs.index.get(x + width)!]
    const [top, bottom] = [ys.index.get(y)!, ys.index.get(y + height)!]
    for (let row = top + 1; row < bottom; row++) across.fill(1, row * columns + left, row * columns + right)
    for (let row = top; row < bottom; row++) along.fill(1, row * columns + left + 1, row * columns + right)
  }
  const cells = columns * rows
  // Two states a crossing: come along a row (0), or along a column (1).
  const cost = new Float64Array(cells * 2).fill(Infinity)
  const cameFrom = new Int32Array(cells * 2).fill(-1)
  const queue = new Heap()
  const cellOf = ({ x, y }: Point): number => ys.index.get(y)! * columns + xs.index.get(x)!
  const startAt = new Map(starts.map(exit => [cellOf(exit.at), exit]))
  const endAt = new Map(ends.map(exit => [cellOf(exit.at), exit]))
  // The least that is left from a column, or from a row: the way may end at any of the ends.
  const leftAlong = xs.at.map(x => Math.min(...ends.map(({ at }) => Math.abs(at.x - x))))
  const leftAcross = ys.at.map(y => Math.min(...ends.map(({ at }) => Math.abs(at.y - y))))
  const left = (cell: number): number => {
    const column = cell % columns
    return leftAlong[column]! + leftAcross[(cell - column) / columns]!
  }
  if (from) {
    const [cell, { at }] = [...startAt][0]!
    if (from.y === at.y) across[from.x < at.x ? cell - 1 : cell] = 1
    else along[from.y < at.y ? cell - columns : cell] = 1
  }
  for (const [cell, { at, edge }] of startAt)
    // Leaving a side along it would hug the plank: the first stretch goes on as the exit does.
    for (const way of at === edge || (at.x === edge.x && at.y === edge.y) ? [0, 1] : [at.y === edge.y ? 0 : 1]) {
      cost[cell * 2 + way] = 0
      queue.push(cell * 2 + way, left(cell))
    }
  for (;;) {
    const state = queue.pop()
    if (state < 0) return null
    const now = cost[state]!
    const cell = state >> 1
    if (queue.lastCost > now + left(cell)) continue
    const way = state & 1
    const end = endAt.get(cell)
    if (end && arrives(end, way)) return straightened(trace(state, end))
    const column = cell % columns
    const row = (cell - column) / columns
    if (column > 0 && !across[cell - 1]) step(state, (cell - 1) * 2, xs.at[column]! - xs.at[column - 1]!)
    if (column < columns - 1 && !across[cell]) step(state, (cell + 1) * 2, xs.at[column + 1]! - xs.at[column]!)
    if (row > 0 && !along[cell - columns]) step(state, (cell - columns) * 2 + 1, ys.at[row]! - ys.at[row - 1]!)
    if (row < rows - 1 && !along[cell]) step(state, (cell + columns) * 2 + 1, ys.at[row + 1]! - ys.at[row]!)
  }

  function arrives({ at, edge }: Exit, way: number): boolean {
    return (at.x === edge.x && at.y === edge.y) || way === (at.y === edge.y ? 0 : 1)
  }
  function step(from: number, to: number, length: number): void {
    let total = cost[from]! + length + ((from & 1) === (to & 1) ? 0 : BEND)
    // Turning on the spot before the end, so that it's arrived at straight.
    const end = endAt.get(to >> 1)
    if (end && !arrives(end, to & 1)) {
      total += BEND
      to ^= 1
    }
    if (total >= cost[to]!) return
    cost[to] = total
    cameFrom[to] = from
    queue.push(to, total + left(to >> 1))
  }
  function trace(state: number, end: Exit): Point[] {
    const points: Point[] = [end.edge]
    for (let at = state; at >= 0; at = cameFrom[at]!) {
      const cell = at >> 1
      points.push({ x: xs.at[cell % columns]!, y: ys.at[(cell - (cell % columns)) / columns]! })
      if (cameFrom[at]! < 0) points.push(startAt.get(cell)!.edge)
    }
    return points.reverse()
  }
}

/** The same way without points that lie on a straight stretch, or twice. */
function straightened(points: readonly Point[]): Point[] {
  const kept: Point[] = []
  for (const point of points) {
    const [before, last] = [kept.at(-2), kept.at(-1)]
    if (last && last.x === point.x && last.y === point.y) continue
    if (
      before &&
      last &&
      span(before, last) + span(last, point) === span(before, point) &&
      isStraight(before, last, point)
    )
      kept.pop()
    kept.push(point)
  }
  return kept
}

const isStraight = (a: Point, b: Point, c: Point): boolean =>
  (a.x === b.x && b.x === c.x) || (a.y === b.y && b.y === c.y)

function elbow(from: Point, to: Point): Point[] {
  return straightened([from, { x: to.x, y: from.y }, to])
}

/** Parts of a stretch at which a label is tried, the middle first, then by turns to both ends. */
const FROM_THE_MIDDLE = Array.from({ length: 19 }, (_, i) => 0.5 + Math.ceil(i / 2) * (i % 2 ? -0.05 : 0.05))

/** Where a label of this size stands on the thread, over no plank if that can be: on the longest stretch that has room. */
export function labelPlace({ points }: Thread, width: number, height: number, planks: readonly Rect[]): Point {
  const stretches = points
    .slice(1)
    .map((to, i) => ({ from: points[i]!, to, length: span(points[i]!, to) }))
    .sort((a, b) => b.length - a.length)
  const free = ({ x, y }: Point): boolean =>
    !planks.some(
      plank =>
        x - width / 2 < plank.x + plank.width &&
        plank.x < x + width / 2 &&
        y - height / 2 < plank.y + plank.height &&
        plank.y < y + height / 2,
    )
  const partOf = ({ from, to }: { from: Point; to: Point }, part: number): Point => ({
    x: from.x + (to.x - from.x) * part,
    y: from.y + (to.y - from.y) * part,
  })
  for (const stretch of stretches)
    for (const part of FROM_THE_MIDDLE) {
      const at = partOf(stretch, part)
      if (free(at)) return at
    }
  return stretches[0] ? partOf(stretches[0], 0.5) : points[0]!
}

/** How far a point is from the thread. */
export function distanceTo({ points }: Thread, { x, y }: Point): number {
  let least = Infinity
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!]
    const dx = Math.max(Math.min(a.x, b.x) - x, 0, x - Math.max(a.x, b.x))
    const dy = Math.max(Math.min(a.y, b.y) - y, 0, y - Math.max(a.y, b.y))
    least = Math.min(least, Math.hypot(dx, dy))
  }
  return least
}

/** States by what they cost, the least first. */
class Heap {
  private readonly states: number[] = []
  private readonly costs: number[] = []
  /** What the state that was taken last had cost when it was put in. */
  lastCost = 0

  push(state: number, cost: number): void {
    const { states, costs } = this
    let at = states.length
    states.push(state)
    costs.push(cost)
    while (at > 0) {
      const above = (at - 1) >> 1
      if (costs[above]! <= cost) break
      states[at] = states[above]!
      costs[at] = costs[above]!
      at = above
    }
    states[at] = state
    costs[at] = cost
  }

  /** The state with the least cost; -1 when there is none. */
  pop(): number {
    const { states, costs } = this
    if (states.length === 0) return -1
    const top = states[0]!
    this.lastCost = costs[0]!
    const state = states.pop()!
    const cost = costs.pop()!
    if (states.length > 0) {
      let at = 0
      for (;;) {
        let below = at * 2 + 1
        if (below >= states.length) break
        if (below + 1 < states.length && costs[below + 1]! < costs[below]!) below++
        if (costs[below]! >= cost) break
        states[at] = states[below]!
        costs[at] = costs[below]!
        at = below
      }
      states[at] = state
      costs[at] = cost
    }
    return top
  }
}
