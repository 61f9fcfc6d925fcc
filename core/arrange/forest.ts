import type { Side } from '../tree/fields'
import type { TopicId } from '../tree/topic'
import type { Grove, Ground, GroveOnlooker } from './grove'
import { backOf, type Direction, edgeOf, type Extents, GAPS, meets, type Placed, type Rect } from './place'
import { halfOf } from './standing'
import { layOut, newPlot, type Plot } from './tidy'

/** Clear space between parent and child, and between siblings. */
interface Gaps {
  readonly along: number
  readonly across: number
}

/** A frame whose branches run one way, or to both sides. */
export interface ForestGround extends Ground {
  /**
   * The plots of all forests of the layout; a branch may go from one frame to another. Whoever keeps them says when
   * one isn't fresh.
   */
  readonly plots: Map<TopicId, Plot>
  /**
   * The topics directly below one that has no frame of its own, which its plot says: looking it up again for each
   * would cost a quarter of arranging.
   */
  shown(id: TopicId): readonly TopicId[]
  /** The one way that all run, or each main branch's side. */
  directionOf(): Direction | ((main: TopicId) => Side)
  /** Whether those on the left of two sides are read from the bottom up. */
  readsUp(): boolean
  /** Whether the root is a centre, with more space around it. */
  isWide(): boolean
}

/**
 * Branches that run one way from their root, or to both sides of it, each laid out as a tidy tree. Nothing is stored by
 * absolute place, so a branch that is pushed aside costs nothing.
 */
export class ForestGrove implements Grove {
  private forests: { readonly direction: Direction; readonly forest: Plot }[] = []
  private gaps!: Record<'plain' | 'main' | 'down', Gaps>

  constructor(private readonly ground: ForestGround) {}

  touch(): void {}

  forget(): void {}

  settle(): Extents {
    const { ground } = this
    const { along, across } = ground
    this.gaps = {
      plain: { along: GAPS.along * along, across: GAPS.across * across },
      main: { along: GAPS.mainAlong * along, across: GAPS.mainAcross * across },
      down: { along: GAPS.downAlong * along, across: GAPS.downAcross * across },
    }
    const kids = ground.kids(ground.root)
    const directionOf = ground.directionOf()
    const before = new Map(this.forests.map(({ direction, forest }) => [direction, forest]))
    this.forests = []
    for (const direction of typeof directionOf === 'string' ? [directionOf] : (['right', 'left'] as const)) {
      const forest = before.get(direction) ?? newPlot('')
      const here = typeof directionOf === 'string' ? [...kids] : kids.filter(id => directionOf(id) === direction)
      if (typeof directionOf !== 'string' && direction === 'left' && ground.readsUp()) here.reverse()
      layOut(forest, this.below(here, direction, ground.isWide(), forest.kids))
      this.forests.push({ direction, forest })
    }
    return this.reach()
  }

  private gapsOf(direction: Direction, main: boolean): Gaps {
    return direction === 'down' ? this.gaps.down : main ? this.gaps.main : this.gaps.plain
  }

  private plotOf(id: TopicId, direction: Direction, gapAcross: number): Plot {
    const { plots } = this.ground
    let plot = plots.get(id)
    if (!plot) {
      plots.set(id, (plot = newPlot(id)))
      plot.framed = this.ground.isNested(id)
    }
    return this.isFresh(plot, direction, gapAcross) ? plot : this.refresh(plot, direction, gapAcross)
  }

  /** The space behind a plank, where its bracket stands. */
  private gapBehind(direction: Direction): number {
    return direction === 'down' ? this.gaps.down.along : this.gaps.plain.along
  }

  /** False also for one that was laid out elsewhere: the other way, beside a centre, or in a frame with other space. */
  private isFresh(plot: Plot, direction: Direction, gapAcross: number): boolean {
    return (
      plot.fresh &&
      plot.direction === direction &&
      plot.gapAcross === gapAcross &&
      plot.gapAlong === this.gapBehind(direction)
    )
  }

  private refresh(plot: Plot, direction: Direction, gapAcross: number): Plot {
    const { ground } = this
    const upright = direction === 'down'
    const { width, height } = ground.size(plot.id)
    plot.direction = direction
    plot.along = upright ? height : width
    plot.across = upright ? width : height
    plot.gapAlong = this.gapBehind(direction)
    plot.gapAcross = gapAcross
    plot.fresh = true
    plot.lead = 0
    if (!plot.framed) return layOut(plot, this.below(ground.shown(plot.id), direction, false, plot.kids), true)
    return enclose(plot, ground.extents(plot.id), direction)
  }

  /** The plots of siblings; most stand where they stood before, which spares looking them up. */
  private below(ids: readonly TopicId[], direction: Direction, main: boolean, before: readonly Plot[]): Plot[] {
    const kids: Plot[] = []
    const { across } = this.gapsOf(direction, main)
    for (let i = 0; i < ids.length; i++) {
      const same = before[i]
      kids.push(
        same === undefined || same.id !== ids[i]
          ? this.plotOf(ids[i]!, direction, across)
          : this.isFresh(same, direction, across)
            ? same
            : this.refresh(same, direction, across),
      )
    }
    return kids
  }

  private reach(): Extents {
    const { ground } = this
    const { width, height } = ground.size(ground.root)
    let { left, right, top, bottom } = halfOf({ width, height })
    for (const { direction, forest } of this.forests) {
      if (forest.kids.length === 0) continue
      const reach = forest.reach + this.gapsOf(direction, ground.isWide()).along
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

  private rootPlank(): Placed {
    const { root } = this.ground
    const { width, height } = this.ground.size(root)
    return { id: root, x: -width / 2, y: -height / 2, width, height, direction: 'right' }
  }

  find(steps: readonly TopicId[]): Placed | null {
    let placed = this.rootPlank()
    let plot: Plot | null = null
    for (const step of steps) {
      const found: { kid: Plot; direction: Direction; gap: number } | null = plot
        ? kidOf(plot, step, placed.direction, plot.gapAlong)
        : this.mainOf(step)
      if (!found) return null
      placed = childAt(placed, found.kid, found.direction, found.gap)
      plot = found.kid
    }
    return placed
  }

  private mainOf(id: TopicId): { kid: Plot; direction: Direction; gap: number } | null {
    for (const { direction, forest } of this.forests) {
      const found = kidOf(forest, id, direction, this.gapsOf(direction, this.ground.isWide()).along)
      if (found) return found
    }
    return null
  }

  scan(view: Rect, grain: number, onlooker: GroveOnlooker): void {
    const root = this.rootPlank()
    for (const { direction, forest } of this.forests)
      showKids(view, grain, onlooker, root, forest.kids, direction, this.gapsOf(direction, this.ground.isWide()).along)
  }
}

/** A plot as large as a frame's drawing, with the plank where it stands in it. */
function enclose(plot: Plot, { left, right, top, bottom }: Extents, direction: Direction): Plot {
  layOut(plot, [])
  const [before, after, near, far] =
    direction === 'down'
      ? [top, bottom, left, right]
      : direction === 'right'
        ? [left, right, top, bottom]
        : [right, left, top, bottom]
  plot.lead = before - plot.along / 2
  plot.reach = before + after + plot.gapAlong
  plot.low = Math.min(plot.low, -near - plot.gapAcross / 2)
  plot.high = Math.max(plot.high, far + plot.gapAcross / 2)
  return plot
}

function kidOf(
  parent: Plot,
  id: TopicId,
  direction: Direction,
  gap: number,
): { kid: Plot; direction: Direction; gap: number } | null {
  const kid = parent.kids.find(one => one.id === id)
  return kid ? { kid, direction, gap } : null
}

/** Where a child stands, from its parent's place. */
function childAt(parent: Placed, child: Plot, direction: Direction, gap: number): Placed {
  const { along, across, lead } = child
  if (direction === 'down') {
    return {
      id: child.id,
      x: parent.x + parent.width / 2 + child.offset - across / 2,
      y: parent.y + parent.height + gap + lead,
      width: across,
      height: along,
      direction,
    }
  }
  const x = direction === 'right' ? parent.x + parent.width + gap + lead : parent.x - gap - lead - along
  return {
    id: child.id,
    x,
    y: parent.y + parent.height / 2 + child.offset - across / 2,
    width: along,
    height: across,
    direction,
  }
}

function show(view: Rect, grain: number, onlooker: GroveOnlooker, placed: Placed, branch: Plot): void {
  if (branch.framed) {
    onlooker.frame(placed)
    return
  }
  const { direction } = placed
  const rect =
    direction === 'down'
      ? {
          x: placed.x + placed.width / 2 + branch.low,
          y: placed.y,
          width: branch.high - branch.low,
          height: branch.reach,
        }
      : {
          x: direction === 'right' ? placed.x : placed.x + placed.width - branch.reach,
          y: placed.y + placed.height / 2 + branch.low,
          width: branch.reach,
          height: branch.high - branch.low,
        }
  if (!meets(view, rect)) return
  if (branch.kids.length > 0 && branch.high - branch.low < grain) {
    onlooker.block(
      direction === 'down'
        ? { ...rect, height: rect.height - branch.gapAlong }
        : { ...rect, width: rect.width - branch.gapAlong },
      placed.id,
    )
    return
  }
  if (meets(view, placed)) onlooker.plank(placed)
  showKids(view, grain, onlooker, placed, branch.kids, direction, branch.gapAlong)
}

function showKids(
  view: Rect,
  grain: number,
  onlooker: GroveOnlooker,
  parent: Placed,
  kids: readonly Plot[],
  direction: Direction,
  gap: number,
): void {
  if (kids.length === 0) return
  const down = direction === 'down'
  const middle = down ? parent.x + parent.width / 2 : parent.y + parent.height / 2
  const [viewFrom, viewTo] = down ? [view.x, view.x + view.width] : [view.y, view.y + view.height]
  const seen: Placed[] = []
  for (const kid of kids) {
    const at = middle + kid.offset
    if (at + kid.low > viewTo || at + kid.high < viewFrom) continue
    const placed = childAt(parent, kid, direction, gap)
    seen.push(placed)
    show(view, grain, onlooker, placed, kid)
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

/**
 * One bracket: a short stub, one straight spine as long as from the first to the last child, a short tick to each
 * child in sight.
 */
function bracket(
  onlooker: GroveOnlooker,
  parent: Placed,
  direction: Direction,
  gap: number,
  kids: readonly Placed[],
  from: number,
  to: number,
): void {
  const edge = edgeOf(parent, direction)
  const spine = direction === 'down' ? edge.y + gap / 2 : direction === 'right' ? edge.x + gap / 2 : edge.x - gap / 2
  if (direction === 'down') onlooker.line(parent.id, [edge.x, edge.y, edge.x, spine, from, spine, to, spine])
  else onlooker.line(parent.id, [edge.x, edge.y, spine, edge.y, spine, from, spine, to])
  for (const kid of kids) {
    const back = backOf(kid, direction)
    onlooker.line(kid.id, direction === 'down' ? [back.x, spine, back.x, back.y] : [spine, back.y, back.x, back.y])
  }
}
