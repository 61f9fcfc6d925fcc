import type { Side, TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { balanceSides } from '../tree/balance'
import { beside, type Branch, type Forest, rooted } from './tidy'

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
  private readonly branches = new Map<TopicId, Branch>()
  private readonly hiddenCounts = new Map<TopicId, number>()
  private right: Forest | null = null
  private left: Forest | null = null
  private rightKids: readonly TopicId[] = []
  private leftKids: readonly TopicId[] = []
  private stale = true

  constructor(private tree: Tree, private readonly look: Look, private arrangement: Arrangement) {}

  /** Forgets everything, for instance when fonts, sizes or the arrangement change. */
  reset(arrangement: Arrangement = this.arrangement): void {
    this.arrangement = arrangement
    this.branches.clear()
    this.hiddenCounts.clear()
    this.stale = true
  }

  /** Goes on with another tree object in place of the old one. */
  rebase(tree: Tree): void {
    this.tree = tree
    this.reset(tree.fields.arrangement)
  }

  /** Says that a topic's data, size, fold state or children changed. Unknown and removed ids are fine. */
  touch(ids: Iterable<TopicId | null>): void {
    for (const id of ids) {
      for (let at: TopicId | null = id; at !== null; at = this.tree.topics.get(at)?.parent ?? null) {
        this.branches.delete(at)
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

  private isMain(id: TopicId): boolean {
    return topicOf(this.tree, id).parent === this.tree.centre
  }

  private branch(id: TopicId): Branch {
    const known = this.branches.get(id)
    if (known) return known
    const { width, height } = this.look.size(id)
    const kids = this.shown(id)
    const forest = kids.length > 0 ? beside(kids.map(kid => this.branch(kid))) : null
    const built = rooted(width + GAPS.along, height + (this.isMain(id) ? GAPS.mainAcross : GAPS.across), forest, GAPS.along)
    this.branches.set(id, built)
    return built
  }

  private settle(): void {
    if (!this.stale) return
    this.stale = false
    const main = this.shown(this.tree.centre)
    if (this.arrangement === 'right') {
      this.rightKids = main
      this.leftKids = []
    }
    else {
      const sides = sidesOf(this.tree)
      this.rightKids = main.filter((_, i) => sides[i] === 'right')
      this.leftKids = main.filter((_, i) => sides[i] === 'left')
    }
    this.right = beside(this.rightKids.map(kid => this.branch(kid)))
    this.left = beside(this.leftKids.map(kid => this.branch(kid)))
    for (const loose of childrenOf(this.tree, null)) this.branch(loose)
  }

  private centrePlank(): Placed {
    const { width, height } = this.look.size(this.tree.centre)
    return { id: this.tree.centre, x: -width / 2, y: -height / 2, width, height, direction: 'right' }
  }

  /** Loose topics stand where they were put; those without a place queue up below the tree. */
  private *loose(): Generator<{ placed: Placed, branch: Branch }> {
    let queueY = Math.max(this.right?.high ?? 0, this.left?.high ?? 0, 40) + 60
    for (const id of childrenOf(this.tree, null)) {
      const topic = topicOf(this.tree, id)
      const branch = this.branch(id)
      const { width, height } = this.look.size(id)
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
  private childAt(parent: Placed, forest: Forest, index: number, id: TopicId, direction: Side, gap: number): Placed {
    const { width, height } = this.look.size(id)
    const x = direction === 'right' ? parent.x + parent.width + gap : parent.x - gap - width
    const y = parent.y + parent.height / 2 + forest.offsets[index]! - forest.middle - height / 2
    return { id, x, y, width, height, direction }
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
      const child: TopicId = path[i]!
      if (i === 1 && root === this.tree.centre) {
        const onRight = this.rightKids.indexOf(child)
        const index = onRight >= 0 ? onRight : this.leftKids.indexOf(child)
        placed = index < 0 ? null : this.childAt(placed, onRight >= 0 ? this.right! : this.left!, index, child, onRight >= 0 ? 'right' : 'left', GAPS.mainAlong)
      }
      else {
        const parent: TopicId = path[i - 1]!
        const index = this.shown(parent).indexOf(child)
        placed = index < 0 ? null : this.childAt(placed, this.branch(parent).forest!, index, child, placed.direction, GAPS.along)
      }
    }
    return placed
  }

  /** The rectangle around everything that is shown. */
  bounds(): Rect {
    this.settle()
    const centre = this.centrePlank()
    let x1 = centre.x - (this.left ? this.left.reach + GAPS.mainAlong : 0)
    let x2 = centre.x + centre.width + (this.right ? this.right.reach + GAPS.mainAlong : 0)
    let y1 = Math.min(centre.y, ...[this.right, this.left].map(side => side ? side.low - side.middle : 0))
    let y2 = Math.max(centre.y + centre.height, ...[this.right, this.left].map(side => side ? side.high - side.middle : 0))
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
    this.children(view, grain, onlooker, centre, this.rightKids, this.right, 'right', GAPS.mainAlong)
    this.children(view, grain, onlooker, centre, this.leftKids, this.left, 'left', GAPS.mainAlong)
    for (const { placed, branch } of this.loose()) this.show(view, grain, onlooker, placed, branch)
  }

  private show(view: Rect, grain: number, onlooker: Onlooker, placed: Placed, branch: Branch): void {
    const middle = placed.y + placed.height / 2
    const right = placed.direction === 'right'
    const x = right ? placed.x : placed.x + placed.width - branch.reach
    if (!meets(view, { x, y: middle + branch.low, width: branch.reach, height: branch.high - branch.low })) return
    if (branch.forest && branch.high - branch.low < grain) {
      onlooker.block({ x, y: middle + branch.low, width: branch.reach - GAPS.along, height: branch.high - branch.low }, placed.id)
      return
    }
    if (meets(view, placed)) onlooker.plank(placed)
    this.children(view, grain, onlooker, placed, this.shown(placed.id), branch.forest, placed.direction, GAPS.along)
  }

  private children(view: Rect, grain: number, onlooker: Onlooker, parent: Placed, kids: readonly TopicId[],
    forest: Forest | null, direction: Side, gap: number): void {
    if (!forest) return
    const middle = parent.y + parent.height / 2 - forest.middle
    const edge = direction === 'right' ? parent.x + parent.width : parent.x
    const seen: Placed[] = []
    for (let i = 0; i < kids.length; i++) {
      const branch = this.branch(kids[i]!)
      const at = middle + forest.offsets[i]!
      if (at + branch.low > view.y + view.height || at + branch.high < view.y) continue
      const placed = this.childAt(parent, forest, i, kids[i]!, direction, gap)
      seen.push(placed)
      this.show(view, grain, onlooker, placed, branch)
    }
    const spineX = direction === 'right' ? edge + gap / 2 : edge - gap / 2
    const from = middle + forest.offsets[0]!
    const to = middle + forest.offsets[kids.length - 1]!
    if (meets(view, { x: Math.min(edge, spineX, edge + (direction === 'right' ? gap : -gap)), y: from - 1, width: gap, height: to - from + 2 }))
      onlooker.bracket(parent, direction, spineX, seen, from, to)
  }
}

function meets(a: Rect, b: Rect): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height
}
