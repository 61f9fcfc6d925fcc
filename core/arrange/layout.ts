import { balanceSides } from '../tree/balance'
import type { Arrangement, Side, TopicId } from '../tree/topic'
import { childrenOf, topicOf, type Tree } from '../tree/tree'
import { looseOf } from '../tree/walk'
import type { Grove } from './grove'
import { HandGrove } from './hand'
import { around, backOf, type Direction, edgeOf, type Extents, GAPS, meets, type Onlooker, type Placed, type Rect, type Size } from './place'
import { RingGrove } from './ring'
import { type Ground, halfOf, type Line, type Spot, type Standing } from './standing'
import { Patchwork } from './patchwork'
import { layOut, newPlot, type Plot } from './tidy'
import { timeArrangement } from './time-axis'

export type { Direction, Onlooker, Placed, Rect } from './place'

/** What the arrangement asks of whoever draws. Sizes in canvas units. */
export interface Look {
  size(id: TopicId): Size
  folded(id: TopicId): boolean
  /** Whether a topic, with all below it, is left out; undefined while nothing is. */
  readonly hidden?: ((id: TopicId) => boolean) | undefined
}

export interface Settings {
  readonly arrangement: Arrangement
  /** Multipliers of the usual space between parent and child, and between siblings. */
  readonly along: number
  readonly across: number
  /** The one branch that is shown, or null for the whole tree. */
  readonly only: TopicId | null
  /** The present day, for a time axis. */
  readonly today?: string
}

/** Which side of the centre each main branch stands on, when the tree is arranged on both sides. */
export function sidesOf(tree: Tree): Side[] {
  const main = childrenOf(tree, tree.centre)
  const given = main.map(id => topicOf(tree, id).side)
  return given.every(side => side !== null) ? given : balanceSides(main.map(() => 1), given)
}

/** A part of the drawing with an arrangement of its own: the centre's, a loose topic's, or that of a branch that was given one. */
interface Frame {
  readonly id: TopicId
  arrangement: Arrangement
  /** The forests of an arrangement that runs one way or two. */
  readonly forests: { readonly direction: Direction, readonly forest: Plot }[]
  /** The places around a root or by hand, kept topic by topic. */
  grove: Grove | null
  /** The places along a time axis. */
  standing: Standing | null
  /** The same, by where they lie; made when somebody looks. Planks and lines as if the frame's root stood at (0, 0). */
  planks: Patchwork<Placed> | null
  lines: Patchwork<Line> | null
  extents: Extents
  fresh: boolean
}

interface Gaps { readonly along: number, readonly across: number }

/**
 * Where each plank of a tree stands, kept up to date change by change: only what was touched and what stands above it
 * is laid out again. Nothing is stored by absolute place, so a branch that is pushed aside costs nothing.
 */
export class Layout {
  private readonly plots = new Map<TopicId, Plot>()
  private readonly frames = new Map<TopicId, Frame>()
  private readonly hiddenCounts = new Map<TopicId, number>()
  private settings: Settings
  private gaps!: Record<'plain' | 'main' | 'down', Gaps>
  private stale = true

  constructor(private tree: Tree, private readonly look: Look, private override: Partial<Settings> = {}) {
    this.settings = this.settingsNow()
  }

  private settingsNow(): Settings {
    const { arrangement, along, across } = this.tree.fields
    const now = { arrangement, along: along / 100, across: across / 100, only: null, ...this.override }
    this.gaps = {
      plain: { along: GAPS.along * now.along, across: GAPS.across * now.across },
      main: { along: GAPS.mainAlong * now.along, across: GAPS.mainAcross * now.across },
      down: { along: GAPS.downAlong * now.along, across: GAPS.downAcross * now.across },
    }
    return now
  }

  /** Forgets everything, for instance when fonts, sizes, spacing or the arrangement change. */
  reset(override: Partial<Settings> = this.override): void {
    this.override = override
    this.settings = this.settingsNow()
    for (const plot of this.plots.values()) plot.fresh = false
    this.frames.clear()
    this.hiddenCounts.clear()
    this.stale = true
  }

  /** Goes on with another tree object in place of the old one. */
  rebase(tree: Tree): void {
    this.tree = tree
    this.plots.clear()
    this.reset()
  }

  /** Says that a topic's data, size, fold state or children changed. Unknown and removed ids are fine. */
  touch(ids: Iterable<TopicId | null>): void {
    for (const id of ids) {
      const own = id === null ? undefined : this.plots.get(id)
      if (own) own.framed = this.isFramed(own.id)
      const trail: TopicId[] = []
      for (let at: TopicId | null = id; at !== null; at = this.tree.topics.get(at)?.parent ?? null) {
        trail.push(at)
        const plot = this.plots.get(at)
        if (plot) plot.fresh = false
        const frame = this.frames.get(at)
        if (frame) {
          frame.fresh = false
          frame.grove?.touch(trail)
        }
        this.hiddenCounts.delete(at)
      }
    }
    this.stale = true
  }

  /** The children that can be seen: none while folded. */
  shown(id: TopicId): readonly TopicId[] {
    if (id !== this.root && this.look.folded(id)) return []
    const kids = childrenOf(this.tree, id)
    const { hidden } = this.look
    return hidden ? kids.filter(kid => !hidden(kid)) : kids
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

  /** The topic that the drawing starts from: the centre, or the one branch that is shown. */
  get root(): TopicId {
    const { only } = this.settings
    return only !== null && this.tree.topics.has(only) ? only : this.tree.centre
  }

  /** The arrangement of the branch's own frame; null when it's drawn as its parent's frame says. */
  arrangementOf(id: TopicId): Arrangement | null {
    const topic = topicOf(this.tree, id)
    if (id === this.tree.centre) return this.settings.arrangement
    if (topic.arrangement !== null) return topic.arrangement
    if (id !== this.root) return topic.parent === null ? 'right' : null
    for (let at = topic.parent; at !== null; at = topicOf(this.tree, at).parent) {
      const above = at === this.tree.centre ? this.settings.arrangement : topicOf(this.tree, at).arrangement
      if (above !== null) return above === 'hand' || above === 'time' ? 'right' : above
    }
    return 'right'
  }

  /** The arrangement that a topic's children are placed by. */
  arrangementAround(id: TopicId): Arrangement {
    for (let at: TopicId | null = id; at !== null; at = topicOf(this.tree, at).parent) {
      const own = this.arrangementOf(at)
      if (own !== null) return own
      if (at !== id && this.frames.get(topicOf(this.tree, at).parent ?? '')?.arrangement === 'time') return 'right'
    }
    return 'right'
  }

  // — Laying out

  private gapsOf(direction: Direction, main: boolean): Gaps {
    return direction === 'down' ? this.gaps.down : main ? this.gaps.main : this.gaps.plain
  }

  private plotOf(id: TopicId, direction: Direction, main: boolean): Plot {
    let plot = this.plots.get(id)
    if (!plot) {
      this.plots.set(id, plot = newPlot(id))
      plot.framed = this.isFramed(id)
    }
    return this.isFresh(plot, direction) ? plot : this.refresh(plot, direction, main)
  }

  private isFramed(id: TopicId): boolean {
    const arrangement = this.tree.topics.get(id)?.arrangement
    return arrangement !== null && arrangement !== undefined
  }

  private isFresh(plot: Plot, direction: Direction): boolean {
    return plot.fresh && plot.direction === direction && (!plot.framed || this.frames.get(plot.id)?.fresh === true)
  }

  private refresh(plot: Plot, direction: Direction, main: boolean): Plot {
    const upright = direction === 'down'
    const { width, height } = this.look.size(plot.id)
    const gaps = upright ? this.gaps.down : this.gaps.plain
    plot.direction = direction
    plot.along = upright ? height : width
    plot.across = upright ? width : height
    plot.gapAlong = gaps.along
    plot.gapAcross = main ? this.gapsOf(direction, true).across : gaps.across
    plot.fresh = true
    plot.lead = 0
    if (!plot.framed) return layOut(plot, this.below(this.shown(plot.id), direction, false, plot.kids), true)
    return this.enclose(plot, this.frameOf(plot.id).extents, direction)
  }

  /** A plot as large as a frame's drawing, with the plank where it stands in it. */
  private enclose(plot: Plot, { left, right, top, bottom }: Extents, direction: Direction): Plot {
    layOut(plot, [])
    const [before, after, near, far] = direction === 'down' ? [top, bottom, left, right] : direction === 'right' ? [left, right, top, bottom] : [right, left, top, bottom]
    plot.lead = before - plot.along / 2
    plot.reach = before + after + plot.gapAlong
    plot.low = Math.min(plot.low, -near - plot.gapAcross / 2)
    plot.high = Math.max(plot.high, far + plot.gapAcross / 2)
    return plot
  }

  /** The plots of siblings; most stand where they stood before, which spares looking them up. */
  private below(ids: readonly TopicId[], direction: Direction, main: boolean, before: readonly Plot[]): Plot[] {
    const kids: Plot[] = []
    for (let i = 0; i < ids.length; i++) {
      const same = before[i]
      kids.push(same === undefined || same.id !== ids[i] ? this.plotOf(ids[i]!, direction, main) : this.isFresh(same, direction) ? same : this.refresh(same, direction, main))
    }
    return kids
  }

  private frameOf(id: TopicId, arrangement: Arrangement = this.arrangementOf(id) ?? 'right'): Frame {
    let frame = this.frames.get(id)
    if (frame?.fresh && frame.arrangement === arrangement) return frame
    if (!frame) this.frames.set(id, frame = { id, arrangement, forests: [], grove: null, standing: null, planks: null, lines: null, extents: halfOf({ width: 0, height: 0 }), fresh: false })
    if (frame.arrangement !== arrangement) frame.grove = null
    frame.arrangement = arrangement
    frame.fresh = true
    frame.planks = frame.lines = frame.standing = null
    const wide = this.isWide(id)
    if (arrangement === 'time') {
      frame.forests.length = 0
      frame.standing = timeArrangement(this.groundOf(id, arrangement), at => this.dateOf(at), this.settings.today)
      frame.extents = frame.standing.extents
      return frame
    }
    if (arrangement === 'around' || arrangement === 'hand') {
      frame.forests.length = 0
      frame.grove ??= this.groveOf(id, arrangement)
      frame.extents = frame.grove.settle()
      return frame
    }
    frame.grove = null
    const kids = this.shown(id)
    const directions: Direction[] = arrangement === 'both' ? ['right', 'left'] : [arrangement]
    const sides = arrangement === 'both' ? this.sidesBelow(id) : null
    const before = new Map(frame.forests.map(({ direction, forest }) => [direction, forest]))
    frame.forests.length = 0
    for (const direction of directions) {
      const forest = before.get(direction) ?? newPlot('')
      layOut(forest, this.below(sides ? kids.filter((_, i) => sides[i] === direction) : kids, direction, wide, forest.kids))
      frame.forests.push({ direction, forest })
    }
    frame.extents = this.extentsOf(frame, wide)
    return frame
  }

  private isWide(id: TopicId): boolean {
    return id === this.root || topicOf(this.tree, id).parent === null
  }

  private sidesBelow(id: TopicId): Side[] {
    if (id === this.tree.centre) return sidesOf(this.tree)
    const kids = childrenOf(this.tree, id)
    return balanceSides(kids.map(() => 1), kids.map(kid => topicOf(this.tree, kid).side))
  }

  private extentsOf(frame: Frame, wide: boolean): Extents {
    let { left, right, top, bottom } = halfOf(this.look.size(frame.id))
    const { width, height } = this.look.size(frame.id)
    for (const { direction, forest } of frame.forests) {
      if (forest.kids.length === 0) continue
      const reach = forest.reach + this.gapsOf(direction, wide).along
      if (direction === 'down') {
        bottom = Math.max(bottom, height / 2 + reach)
        left = Math.max(left, -forest.low)
        right = Math.max(right, forest.high)
        continue
      }
      if (direction === 'right') right = Math.max(right, width / 2 + reach)
      else left = Math.max(left, width / 2 + reach)
      top = Math.max(top, -forest.low)
      bottom = Math.max(bottom, forest.high)
    }
    return { left, right, top, bottom }
  }

  private groundOf(id: TopicId, arrangement: 'around' | 'time' | 'hand'): Ground {
    const nested = (kid: TopicId): boolean => kid !== id && (arrangement === 'time' || topicOf(this.tree, kid).arrangement !== null)
    return {
      root: id, along: this.settings.along, across: this.settings.across,
      kids: at => nested(at) ? [] : this.shown(at),
      size: at => this.look.size(at),
      extents: at => nested(at) ? this.nestedFrame(at).extents : halfOf(this.look.size(at)),
    }
  }

  private groveOf(id: TopicId, arrangement: 'around' | 'hand'): Grove {
    const ground = this.groundOf(id, arrangement)
    const parentOf = (at: TopicId): TopicId | null => topicOf(this.tree, at).parent
    if (arrangement === 'around') return new RingGrove(ground, parentOf, () => id === this.tree.centre ? sidesOf(this.tree) : null)
    return new HandGrove(ground, parentOf, (at) => {
      const { x, y } = topicOf(this.tree, at)
      return x === null || y === null ? null : { dx: x, dy: y }
    })
  }

  /** The frame of a topic that stands in a frame of places. */
  private nestedFrame(id: TopicId): Frame {
    return this.frameOf(id, topicOf(this.tree, id).arrangement ?? 'right')
  }

  /** A topic's day on a time axis: its own, or the earliest below it. */
  private dateOf(id: TopicId): string | null {
    const topic = topicOf(this.tree, id)
    const own = topic.start ?? topic.due
    if (own !== null) return own
    let earliest: string | null = null
    for (const kid of childrenOf(this.tree, id)) {
      const date = this.dateOf(kid)
      if (date !== null && (earliest === null || date < earliest)) earliest = date
    }
    return earliest
  }

  private settle(): void {
    if (!this.stale) return
    this.stale = false
    this.settings = this.settingsNow()
    this.frameOf(this.root)
    if (this.root === this.tree.centre) for (const loose of looseOf(this.tree)) this.frameOf(loose)
  }

  // — Looking

  private rootPlank(): Placed {
    const { width, height } = this.look.size(this.root)
    return { id: this.root, x: -width / 2, y: -height / 2, width, height, direction: 'right' }
  }

  /** Loose topics stand where they were put; those without a place queue up below the tree. */
  private *loose(): Generator<{ placed: Placed, frame: Frame }> {
    if (this.root !== this.tree.centre) return
    let queueY = Math.max(this.frameOf(this.root).extents.bottom, 40) + 60
    const { hidden } = this.look
    for (const id of looseOf(this.tree)) {
      if (hidden?.(id)) continue
      const topic = topicOf(this.tree, id)
      const frame = this.frameOf(id)
      const { width, height } = this.look.size(id)
      let { x, y } = topic
      if (x === null || y === null) {
        x = -width / 2
        y = queueY + frame.extents.top - height / 2
        queueY += frame.extents.top + frame.extents.bottom + 30
      }
      yield { placed: { id, x, y, width, height, direction: 'right' }, frame }
    }
  }

  /** Where a child stands, from its parent's place. */
  private childAt(parent: Placed, child: Plot, direction: Direction, gap: number): Placed {
    const { along, across, lead } = child
    if (direction === 'down') {
      return { id: child.id, x: parent.x + parent.width / 2 + child.offset - across / 2, y: parent.y + parent.height + gap + lead, width: across, height: along, direction }
    }
    const x = direction === 'right' ? parent.x + parent.width + gap + lead : parent.x - gap - lead - along
    return { id: child.id, x, y: parent.y + parent.height / 2 + child.offset - across / 2, width: along, height: across, direction }
  }

  private standAt(root: Placed, spot: Spot | null | undefined, id: TopicId): Placed | null {
    if (!spot) return null
    const { width, height } = this.look.size(id)
    return { id, x: root.x + root.width / 2 + spot.dx - width / 2, y: root.y + root.height / 2 + spot.dy - height / 2, width, height, direction: spot.direction }
  }

  /** Where one topic stands, or null while a fold or the tray hides it. Cost: its depth and the siblings on the way. */
  find(id: TopicId): Placed | null {
    this.settle()
    const path: TopicId[] = []
    for (let at: TopicId | null = id; at !== null; at = this.tree.topics.get(at)?.parent ?? null) {
      path.unshift(at)
      if (at === this.root) break
    }
    const start = path[0]!
    let placed: Placed | null = null
    if (start === this.root) placed = this.rootPlank()
    else for (const item of this.loose()) if (item.placed.id === start) placed = item.placed
    if (!placed) return null
    let frame: Frame | null = this.frames.get(start)!
    let frameRoot: Placed = placed
    let plot: Plot | null = null
    for (let i = 1; i < path.length; i++) {
      const step: TopicId = path[i]!
      let next: Placed | null = null
      let nextPlot: Plot | null = null
      if (frame?.standing || frame?.grove) {
        next = this.standAt(frameRoot, frame.grove ? frame.grove.spotOf(step) : frame.standing?.spots.get(step), step)
      }
      else if (frame) {
        for (const { direction, forest } of frame.forests) {
          const kid: Plot | undefined = forest.kids.find(one => one.id === step)
          if (kid) [next, nextPlot] = [this.childAt(placed, kid, direction, this.gapsOf(direction, this.isWide(frame.id)).along), kid]
        }
      }
      else if (plot) {
        const kid: Plot | undefined = plot.kids.find(one => one.id === step)
        if (kid) [next, nextPlot] = [this.childAt(placed, kid, placed.direction, plot.gapAlong), kid]
      }
      if (!next) return null
      placed = next
      const opens: boolean = nextPlot ? nextPlot.framed : frame?.standing || frame?.grove ? this.isNested(frame, step) : false
      if (opens) {
        frame = this.frames.get(step)!
        frameRoot = placed
        plot = null
      }
      else if (nextPlot) {
        frame = null
        plot = nextPlot
      }
    }
    return placed
  }

  private isNested(frame: Frame, id: TopicId): boolean {
    return frame.arrangement === 'time' || topicOf(this.tree, id).arrangement !== null
  }

  /** How much room a branch takes across, with its space around it. */
  tallness(id: TopicId): number {
    this.settle()
    const plot = this.plots.get(id)
    return plot ? plot.high - plot.low : this.look.size(id).height
  }

  /** The rectangle around everything that is shown. */
  bounds(): Rect {
    this.settle()
    const whole = around(this.rootPlank(), this.frameOf(this.root).extents)
    let { x: x1, y: y1 } = whole
    let x2 = x1 + whole.width
    let y2 = y1 + whole.height
    for (const { placed, frame } of this.loose()) {
      const one = around(placed, frame.extents)
      x1 = Math.min(x1, one.x)
      x2 = Math.max(x2, one.x + one.width)
      y1 = Math.min(y1, one.y)
      y2 = Math.max(y2, one.y + one.height)
    }
    return { x: x1, y: y1, width: x2 - x1, height: y2 - y1 }
  }

  /**
   * Shows what lies in `view`. A branch whose height is under `grain` canvas units is one block.
   * Cost: what is in sight, plus a glance at each sibling of it.
   */
  scan(view: Rect, grain: number, onlooker: Onlooker): void {
    this.settle()
    this.showFrame(view, grain, onlooker, this.rootPlank(), this.frameOf(this.root))
    for (const { placed, frame } of this.loose()) this.showFrame(view, grain, onlooker, placed, frame)
  }

  private showFrame(view: Rect, grain: number, onlooker: Onlooker, placed: Placed, frame: Frame): void {
    const whole = around(placed, frame.extents)
    if (!meets(view, whole)) return
    if (whole.height < grain && whole.width < grain * 20) {
      onlooker.block(whole, placed.id)
      return
    }
    if (frame.standing) this.showStanding(view, grain, onlooker, placed, frame, frame.standing)
    else if (frame.grove) this.showGrove(view, grain, onlooker, placed, frame, frame.grove)
    else {
      if (meets(view, placed)) onlooker.plank(placed)
      const wide = this.isWide(frame.id)
      for (const { direction, forest } of frame.forests) this.children(view, grain, onlooker, placed, forest.kids, direction, this.gapsOf(direction, wide).along)
    }
  }

  private showStanding(view: Rect, grain: number, onlooker: Onlooker, root: Placed, frame: Frame, standing: Standing): void {
    const cx = root.x + root.width / 2
    const cy = root.y + root.height / 2
    const planks = frame.planks ??= this.patchPlanks(frame, standing)
    const lines = frame.lines ??= new Patchwork(standing.lines.map(line => [line, boxOf(line.points)] as const))
    const at = { ...view, x: view.x - cx, y: view.y - cy }
    const moved = cx !== 0 || cy !== 0
    // Far out, where brackets are finer than a pixel and planks lie side by side, a share of them looks like all of them.
    const stride = grain > 0 ? Math.ceil(planks.size / MOST_BARS) : 1
    if (stride === 1) lines.visit(at, ({ owner, points }) => onlooker.line(owner, moved ? points.map((value, i) => value + (i % 2 === 0 ? cx : cy)) : points))
    const { axis } = standing
    if (axis) onlooker.axis?.(cy + axis.y, cx + axis.from, cx + axis.to, axis.ticks.map(tick => ({ ...tick, x: cx + tick.x })))
    if (meets(view, root)) onlooker.plank(root)
    planks.visit(at, (relative) => {
      const placed = moved ? { ...relative, x: relative.x + cx, y: relative.y + cy } : relative
      if (this.isNested(frame, placed.id)) this.showFrame(view, grain, onlooker, placed, this.frames.get(placed.id)!)
      else onlooker.plank(placed)
    }, stride)
    // The big titles are written over the bars, so the first level is never left out.
    if (stride > 1) for (const id of this.shown(frame.id)) onlooker.plank(this.standAt(root, standing.spots.get(id), id)!)
  }

  private showGrove(view: Rect, grain: number, onlooker: Onlooker, root: Placed, frame: Frame, grove: Grove): void {
    const cx = root.x + root.width / 2
    const cy = root.y + root.height / 2
    const moved = cx !== 0 || cy !== 0
    if (meets(view, root)) onlooker.plank(root)
    grove.scan({ ...view, x: view.x - cx, y: view.y - cy }, grain, {
      plank: (id, spot) => {
        const placed = this.standAt(root, spot, id)!
        if (this.isNested(frame, id)) this.showFrame(view, grain, onlooker, placed, this.frames.get(id)!)
        else onlooker.plank(placed)
      },
      line: (owner, points) => onlooker.line(owner, moved ? points.map((value, i) => value + (i % 2 === 0 ? cx : cy)) : points),
      block: (rect, id) => onlooker.block({ ...rect, x: rect.x + cx, y: rect.y + cy }, id),
    })
  }

  private patchPlanks(frame: Frame, standing: Standing): Patchwork<Placed> {
    const origin: Placed = { id: frame.id, x: 0, y: 0, width: 0, height: 0, direction: 'right' }
    return new Patchwork(Array.from(standing.spots.keys(), (id) => {
      const placed = this.standAt(origin, standing.spots.get(id), id)!
      const { x, y, width, height } = this.isNested(frame, id) ? around(placed, this.frames.get(id)!.extents) : placed
      return [placed, [x, y, x + width, y + height]] as const
    }))
  }

  private show(view: Rect, grain: number, onlooker: Onlooker, placed: Placed, branch: Plot): void {
    if (branch.framed) {
      this.showFrame(view, grain, onlooker, placed, this.frames.get(branch.id)!)
      return
    }
    const { direction } = placed
    const rect = direction === 'down'
      ? { x: placed.x + placed.width / 2 + branch.low, y: placed.y, width: branch.high - branch.low, height: branch.reach }
      : { x: direction === 'right' ? placed.x : placed.x + placed.width - branch.reach, y: placed.y + placed.height / 2 + branch.low, width: branch.reach, height: branch.high - branch.low }
    if (!meets(view, rect)) return
    if (branch.kids.length > 0 && branch.high - branch.low < grain) {
      onlooker.block(direction === 'down' ? { ...rect, height: rect.height - branch.gapAlong } : { ...rect, width: rect.width - branch.gapAlong }, placed.id)
      return
    }
    if (meets(view, placed)) onlooker.plank(placed)
    this.children(view, grain, onlooker, placed, branch.kids, direction, branch.gapAlong)
  }

  private children(view: Rect, grain: number, onlooker: Onlooker, parent: Placed, kids: readonly Plot[], direction: Direction, gap: number): void {
    if (kids.length === 0) return
    const down = direction === 'down'
    const middle = down ? parent.x + parent.width / 2 : parent.y + parent.height / 2
    const [viewFrom, viewTo] = down ? [view.x, view.x + view.width] : [view.y, view.y + view.height]
    const seen: Placed[] = []
    for (const kid of kids) {
      const at = middle + kid.offset
      if (at + kid.low > viewTo || at + kid.high < viewFrom) continue
      const placed = this.childAt(parent, kid, direction, gap)
      seen.push(placed)
      this.show(view, grain, onlooker, placed, kid)
    }
    const edge = edgeOf(parent, direction)
    const from = middle + kids[0]!.offset
    const to = middle + kids[kids.length - 1]!.offset
    const room = down
      ? { x: from - 1, y: edge.y, width: to - from + 2, height: gap }
      : { x: direction === 'right' ? edge.x : edge.x - gap, y: from - 1, width: gap, height: to - from + 2 }
    if (!meets(view, { ...room, x: room.x - 1, width: room.width + 2 })) return
    bracket(onlooker, parent, direction, gap, seen, Math.min(from, middle), Math.max(to, middle))
  }
}

/** One bracket: a short stub, one straight spine as long as from the first to the last child, a short tick to each child in sight. */
function bracket(onlooker: Onlooker, parent: Placed, direction: Direction, gap: number, kids: readonly Placed[], from: number, to: number): void {
  const edge = edgeOf(parent, direction)
  const spine = direction === 'down' ? edge.y + gap / 2 : direction === 'right' ? edge.x + gap / 2 : edge.x - gap / 2
  if (direction === 'down') onlooker.line(parent.id, [edge.x, edge.y, edge.x, spine, from, spine, to, spine])
  else onlooker.line(parent.id, [edge.x, edge.y, spine, edge.y, spine, from, spine, to])
  for (const kid of kids) {
    const back = backOf(kid, direction)
    onlooker.line(kid.id, direction === 'down' ? [back.x, spine, back.x, back.y] : [spine, back.y, back.x, back.y])
  }
}

/** How many planks that were placed one by one are drawn at most when they are seen from afar. */
const MOST_BARS = 6000

function boxOf(points: readonly number[]): readonly [number, number, number, number] {
  let [x1, y1, x2, y2] = [Infinity, Infinity, -Infinity, -Infinity]
  for (let i = 0; i < points.length; i += 2) {
    x1 = Math.min(x1, points[i]!)
    x2 = Math.max(x2, points[i]!)
    y1 = Math.min(y1, points[i + 1]!)
    y2 = Math.max(y2, points[i + 1]!)
  }
  return [x1, y1, x2, y2]
}
