import type { Side, TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { balanceSides } from '../tree/balance'
import { layOut, newPlot, type Plot } from './tidy'

export type Arrangement = 'both' | 'right'

/** What the arrangement asks of whoever draws. Sizes in canvas units. */
export interface Look {
  size(id: TopicId): { readonly width: number, readonly height: number }
  folded(id: TopicId): boolean
}

/** A plank where it stands. (x, y) is its upper left corner; the middle of the centre is (0, 0). */
export interface Placed {
  readonly id: TopicId
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly direction: Side
}

export interface Rect {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** Receives what is in sight: planks with their brackets, and branches too small to tell apart as blocks. */
export interface Onlooker {
  plank(placed: Placed): void
  /** The children of `parent` on one side, as the bracket sees them. `spineX` is where the spine stands. */
  bracket(parent: Placed, direction: Side, spineX: number, children: readonly Placed[], from: number, to: number): void
  block(rect: Rect, id: TopicId): void
}

export const GAPS = { along: 34, mainAlong: 44, across: 9, mainAcross: 26 } as const

/** Which side of the centre each main branch stands on, when the tree is arranged on both sides. */
export function sidesOf(tree: Tree): Side[] {
  const main = childrenOf(tree, tree.centre)
  const given = main.map(id => topicOf(tree, id).side)
  return given.every(side => side !== null) ? given : balanceSides(main.map(() => 1), given)
}

/**
 * Where each plank of a tree stands, kept up to date change by change: only what was touched and what stands above it
 * is laid out again. Nothing is stored by absolute place, so a branch that is pushed aside costs nothing.
 */
export class Layout {
  private readonly plots = new Map<TopicId, Plot>()
  private readonly hiddenCounts = new Map<TopicId, number>()
  /** What the two sides hang from: the centre is drawn apart, so its own size counts for nothing here. */
  private readonly right = newPlot('')
  private readonly left = newPlot('')
  private stale = true

  constructor(private tree: Tree, private readonly look: Look, private arrangement: Arrangement) {}

  /** Forgets everything, for instance when fonts, sizes or the arrangement change. */
  reset(arrangement: Arrangement = this.arrangement): void {
    this.arrangement = arrangement
    for (const plot of this.plots.values()) plot.fresh = false
    this.hiddenCounts.clear()
    this.stale = true
  }

  /** Goes on with another tree object in place of the old one. */
  rebase(tree: Tree): void {
    this.tree = tree
    this.plots.clear()
    // The old plots may not be met again: nobody would say to them that they are stale.
    this.right.kids = this.left.kids = []
    this.reset(tree.fields.arrangement)
  }

  /** Says that a topic's data, size, fold state or children changed. Unknown and removed ids are fine. */
  touch(ids: Iterable<TopicId | null>): void {
    for (const id of ids) {
      for (let at: TopicId | null = id; at !== null; at = this.tree.topics.get(at)?.parent ?? null) {
        const plot = this.plots.get(at)
        if (plot) plot.fresh = false
        this.hiddenCounts.delete(at)
      }
    }
    this.stale = true
  }

  /** The children that can be seen: none while folded. */
  shown(id: TopicId): readonly TopicId[] {
    return this.look.folded(id) ? [] : childrenOf(this.tree, id)
  }

  /** How many topics are hidden below a folded topic. */
  hidden(id: TopicId): number {
    let count = this.hiddenCounts.get(id)
    if (count === undefined) {
      count = 0
      const stack = [...childrenOf(this.tree, id)]
      while (stack.length > 0) {
        count++
        for (const child of childrenOf(this.tree, stack.pop()!)) stack.push(child)
      }
      this.hiddenCounts.set(id, count)
    }
    return count
  }

  private plotOf(id: TopicId, main: boolean): Plot {
    let plot = this.plots.get(id)
    if (!plot) this.plots.set(id, plot = newPlot(id))
    return plot.fresh ? plot : this.refresh(plot, main)
  }

  private refresh(plot: Plot, main: boolean): Plot {
    const { width, height } = this.look.size(plot.id)
    plot.along = width
    plot.across = height
    plot.gapAlong = GAPS.along
    plot.gapAcross = main ? GAPS.mainAcross : GAPS.across
    plot.fresh = true
    return layOut(plot, this.below(this.shown(plot.id), false, plot.kids), true)
  }

  /** The plots of siblings; most stand where they stood before, which spares looking them up. */
  private below(ids: readonly TopicId[], main: boolean, before: readonly Plot[]): Plot[] {
    const kids: Plot[] = []
    for (let i = 0; i < ids.length; i++) {
      const same = before[i]
      kids.push(same === undefined || same.id !== ids[i] ? this.plotOf(ids[i]!, main) : same.fresh ? same : this.refresh(same, main))
    }
    return kids
  }

  private settle(): void {
    if (!this.stale) return
    this.stale = false
    const main = this.shown(this.tree.centre)
    const sides = this.arrangement === 'both' ? sidesOf(this.tree) : null
    layOut(this.right, this.below(main.filter((_, i) => sides?.[i] !== 'left'), true, this.right.kids))
    layOut(this.left, this.below(main.filter((_, i) => sides?.[i] === 'left'), true, this.left.kids))
    for (const loose of childrenOf(this.tree, null)) this.plotOf(loose, false)
  }

  private centrePlank(): Placed {
    const { width, height } = this.look.size(this.tree.centre)
    return { id: this.tree.centre, x: -width / 2, y: -height / 2, width, height, direction: 'right' }
  }

  /** Loose topics stand where they were put; those without a place queue up below the tree. */
  private *loose(): Generator<{ placed: Placed, branch: Plot }> {
    let queueY = Math.max(this.right.high, this.left.high, 40) + 60
    for (const id of childrenOf(this.tree, null)) {
      const topic = topicOf(this.tree, id)
      const branch = this.plotOf(id, false)
      const { along: width, across: height } = branch
      let { x, y } = topic
      if (x === null || y === null) {
        x = -width / 2
        y = queueY - branch.low - height / 2
        queueY += branch.high - branch.low
      }
      yield { placed: { id, x, y, width, height, direction: 'right' }, branch }
    }
  }

  /** Where a child stands, from its parent's place. */
  private childAt(parent: Placed, child: Plot, direction: Side, gap: number): Placed {
    const { along: width, across: height } = child
    const x = direction === 'right' ? parent.x + parent.width + gap : parent.x - gap - width
    const y = parent.y + parent.height / 2 + child.offset - height / 2
    return { id: child.id, x, y, width, height, direction }
  }

  /** Where one topic stands, or null while a fold hides it. Cost: its depth and the siblings on the way. */
  find(id: TopicId): Placed | null {
    this.settle()
    const path: TopicId[] = []
    for (let at: TopicId | null = id; at !== null; at = this.tree.topics.get(at)?.parent ?? null) path.unshift(at)
    const root = path[0]!
    let placed: Placed | null = root === this.tree.centre
      ? this.centrePlank()
      : [...this.loose()].find(item => item.placed.id === root)?.placed ?? null
    for (let i = 1; i < path.length && placed; i++) {
      const id: TopicId = path[i]!
      if (i > 1 || root !== this.tree.centre) {
        const child: Plot | undefined = this.plots.get(path[i - 1]!)?.kids.find(kid => kid.id === id)
        placed = child ? this.childAt(placed, child, placed.direction, GAPS.along) : null
        continue
      }
      const right: Plot | undefined = this.right.kids.find(kid => kid.id === id)
      const child: Plot | undefined = right ?? this.left.kids.find(kid => kid.id === id)
      placed = child ? this.childAt(placed, child, right ? 'right' : 'left', GAPS.mainAlong) : null
    }
    return placed
  }

  /** The rectangle around everything that is shown. */
  bounds(): Rect {
    this.settle()
    const centre = this.centrePlank()
    let x1 = centre.x - (this.left.kids.length > 0 ? this.left.reach + GAPS.mainAlong : 0)
    let x2 = centre.x + centre.width + (this.right.kids.length > 0 ? this.right.reach + GAPS.mainAlong : 0)
    let y1 = Math.min(centre.y, this.right.low, this.left.low)
    let y2 = Math.max(centre.y + centre.height, this.right.high, this.left.high)
    for (const { placed, branch } of this.loose()) {
      const middle = placed.y + placed.height / 2
      x1 = Math.min(x1, placed.x)
      x2 = Math.max(x2, placed.x + branch.reach)
      y1 = Math.min(y1, middle + branch.low)
      y2 = Math.max(y2, middle + branch.high)
    }
    return { x: x1, y: y1, width: x2 - x1, height: y2 - y1 }
  }

  /**
   * Shows what lies in `view`. A branch whose height is under `grain` canvas units is one block.
   * Cost: what is in sight, plus a glance at each sibling of it.
   */
  scan(view: Rect, grain: number, onlooker: Onlooker): void {
    this.settle()
    const centre = this.centrePlank()
    if (meets(view, centre)) onlooker.plank(centre)
    this.children(view, grain, onlooker, centre, this.right.kids, 'right', GAPS.mainAlong)
    this.children(view, grain, onlooker, centre, this.left.kids, 'left', GAPS.mainAlong)
    for (const { placed, branch } of this.loose()) this.show(view, grain, onlooker, placed, branch)
  }

  private show(view: Rect, grain: number, onlooker: Onlooker, placed: Placed, branch: Plot): void {
    const middle = placed.y + placed.height / 2
    const x = placed.direction === 'right' ? placed.x : placed.x + placed.width - branch.reach
    if (!meets(view, { x, y: middle + branch.low, width: branch.reach, height: branch.high - branch.low })) return
    if (branch.kids.length > 0 && branch.high - branch.low < grain) {
      onlooker.block({ x, y: middle + branch.low, width: branch.reach - GAPS.along, height: branch.high - branch.low }, placed.id)
      return
    }
    if (meets(view, placed)) onlooker.plank(placed)
    this.children(view, grain, onlooker, placed, branch.kids, placed.direction, GAPS.along)
  }

  private children(view: Rect, grain: number, onlooker: Onlooker, parent: Placed, kids: readonly Plot[], direction: Side, gap: number): void {
    if (kids.length === 0) return
    const middle = parent.y + parent.height / 2
    const edge = direction === 'right' ? parent.x + parent.width : parent.x
    const seen: Placed[] = []
    for (const kid of kids) {
      const at = middle + kid.offset
      if (at + kid.low > view.y + view.height || at + kid.high < view.y) continue
      const placed = this.childAt(parent, kid, direction, gap)
      seen.push(placed)
      this.show(view, grain, onlooker, placed, kid)
    }
    const spineX = direction === 'right' ? edge + gap / 2 : edge - gap / 2
    const from = middle + kids[0]!.offset
    const to = middle + kids[kids.length - 1]!.offset
    if (meets(view, { x: Math.min(edge, edge + (direction === 'right' ? gap : -gap)), y: from - 1, width: gap, height: to - from + 2 }))
      onlooker.bracket(parent, direction, spineX, seen, from, to)
  }
}

function meets(a: Rect, b: Rect): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height
}
