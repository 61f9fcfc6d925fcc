import type { Side } from '../tree/fields'
import type { TopicId } from '../tree/topic'
import type { Grove, Ground, GroveOnlooker } from './grove'
import { type Extents, meets, type Placed, type Rect } from './place'
import { type LevelRing, sizeRings, spread, USED } from './level-rings'
import { acrossAt, nearRings, type Ring, type Standing } from './near-rings'
import { plankAt, type Spot } from './standing'
import { layOut, newPlot, type Plot } from './tidy'

const RING_GAP = 46
const ACROSS = 10
/** Up to how many topics each group stands as near as it goes, for which all of them are placed anew. */
const FEW = 1000
/** How far an arc drawn in straight pieces may stray from the true one, in canvas units. */
const STRAY = 0.3

/** A branch on the rings. `widths` and `talls` hold the most of each level, its own plank first. */
interface Cell {
  readonly id: TopicId
  readonly plot: Plot
  kids: readonly Cell[]
  own: Extents
  width: number
  widths: readonly number[]
  talls: readonly number[]
  /** How many topics it is, the branch's own with it. */
  count: number
  fresh: boolean
}

/**
 * Around the centre: one ring a level. A topic keeps the height that the tidy tree gives it when all of a level are
 * equally long, and stands where its ring has that height; so siblings keep their order and no two planks meet. Up to
 * some size each group of siblings has a ring of its own, as near as it goes; beyond, one ring a level is as small as
 * its planks, and those on the ring inside it, allow. Linear in topics.
 */
export class RingGrove implements Grove {
  private readonly cells = new Map<TopicId, Cell>()
  private readonly forests: Record<Side, Plot> = { right: newPlot(''), left: newPlot('') }
  private readonly main: Record<Side, readonly Cell[]> = { right: [], left: [] }
  private rings: LevelRing[] = []
  /** The rings of each side by the topic that a group hangs from, and where each branch ends; null when there are many. */
  private near: Record<Side, ReadonlyMap<TopicId, Ring>> | null = null
  private readonly ends = new Map<TopicId, { readonly inner: number; readonly outer: number }>()
  private extents: Extents = { left: 0, right: 0, top: 0, bottom: 0 }
  private fresh = false
  private gap = RING_GAP

  /** `sideOf`: on which side of the root a main branch stands; `readsUp`: whether the left one goes from the bottom up. */
  constructor(
    private readonly ground: Ground,
    private readonly sideOf: () => (main: TopicId) => Side,
    private readonly readsUp: () => boolean,
  ) {}

  forget(): void {
    this.cells.clear()
    this.fresh = false
  }

  touch(ids: Iterable<TopicId>): void {
    this.fresh = false
    for (const id of ids) {
      const cell = this.cells.get(id)
      if (cell) cell.fresh = false
    }
  }

  settle(): Extents {
    if (this.fresh) return this.extents
    this.fresh = true
    const { ground } = this
    const gap = (this.gap = RING_GAP * ground.along)
    const before = [...this.main.right, ...this.main.left]
    const main = ground.kids(ground.root).map(id => this.cellOf(id))
    const gone = new Set(before)
    for (const cell of main) gone.delete(cell)
    for (const cell of gone) this.drop(cell)
    const sideOf = this.sideOf()
    const root = ground.size(ground.root)
    const rings: LevelRing[] = []
    for (const side of ['right', 'left'] as const) {
      const here = main.filter(({ id }) => sideOf(id) === side)
      if (side === 'left' && this.readsUp()) here.reverse()
      this.main[side] = here
      layOut(
        this.forests[side],
        here.map(cell => cell.plot),
      )
      for (const cell of here) {
        cell.widths.forEach((width, level) => {
          const ring = (rings[level] ??= { width: 0, tallest: 0, furthest: 0, radius: 0 })
          ring.width = Math.max(ring.width, width)
          ring.tallest = Math.max(ring.tallest, cell.talls[level]!)
        })
      }
      if (here.length > 0) spread(this.forests[side], rings)
    }
    sizeRings(rings, root, gap)
    this.rings = rings
    this.drawNear(root)
    let [left, right, top, bottom] = [root.width / 2, root.width / 2, root.height / 2, root.height / 2]
    for (const side of ['right', 'left'] as const) {
      for (const cell of this.main[side]) {
        const reach = this.near
          ? this.ends.get(cell.id)!.outer
          : Math.max(...cell.widths.map((width, level) => rings[level]!.radius + width))
        if (side === 'right') right = Math.max(right, reach)
        else left = Math.max(left, reach)
      }
      top = Math.max(top, -this.forests[side].low)
      bottom = Math.max(bottom, this.forests[side].high)
    }
    this.extents = { left, right, top, bottom }
    return this.extents
  }

  private cellOf(id: TopicId): Cell {
    let cell = this.cells.get(id)
    if (cell?.fresh) return cell
    if (!cell)
      this.cells.set(
        id,
        (cell = {
          id,
          plot: newPlot(id),
          kids: [],
          own: NOWHERE,
          width: 0,
          widths: [],
          talls: [],
          count: 1,
          fresh: false,
        }),
      )
    const own = this.ground.extents(id)
    const kids = this.ground.kids(id).map(kid => this.cellOf(kid))
    const { plot } = cell
    // Every level counts as one long: only who stands beside whom matters, so a wider ring moves nothing up or down.
    plot.along = 1
    plot.gapAlong = 0
    plot.across = 2 * Math.max(own.top, own.bottom)
    plot.gapAcross = ACROSS * this.ground.across
    layOut(
      plot,
      kids.map(kid => kid.plot),
    )
    const widths = [own.left + own.right]
    const talls = [plot.across]
    for (const kid of kids) {
      for (let i = 0; i < kid.widths.length; i++) {
        widths[i + 1] = Math.max(widths[i + 1] ?? 0, kid.widths[i]!)
        talls[i + 1] = Math.max(talls[i + 1] ?? 0, kid.talls[i]!)
      }
    }
    // What went elsewhere isn't heard of any more: it begins anew when it comes back.
    const now = new Set(kids)
    for (const kid of cell.kids) if (!now.has(kid)) this.drop(kid)
    const count = kids.reduce((sum, kid) => sum + kid.count, 1)
    Object.assign(cell, { kids, own, width: this.ground.size(id).width, widths, talls, count, fresh: true })
    return cell
  }

  /** Gives each group the nearest ring, when there are few topics. */
  private drawNear(root: { width: number; height: number }): void {
    this.near = null
    this.ends.clear()
    const { ground, gap } = this
    const nearness = { used: USED, gap, apart: ACROSS * ground.across }
    const sides = [this.main.right, this.main.left]
    if (sides.flat().reduce((sum, { count }) => sum + count, 0) > FEW) return
    const standing = (cell: Cell, y: number): Standing => ({
      id: cell.id,
      y,
      width: cell.widths[0]!,
      height: cell.talls[0]!,
      kids: cell.kids.map(kid => standing(kid, y + kid.plot.offset)),
    })
    const [right, left] = sides.map(cells => {
      const mains = cells.map(cell => standing(cell, cell.plot.offset))
      const rings = nearRings({ id: ground.root, ...root }, mains, nearness)
      for (const main of mains) this.noteEnds(main, rings.get(ground.root)!.radius, rings)
      return rings
    }) as [ReadonlyMap<TopicId, Ring>, ReadonlyMap<TopicId, Ring>]
    this.near = { right, left }
  }

  /** Notes from where to where a branch reaches, out from the centre. */
  private noteEnds(
    branch: Standing,
    radius: number,
    rings: ReadonlyMap<TopicId, Ring>,
  ): { inner: number; outer: number } {
    let inner = acrossAt(radius, branch.y)
    let outer = inner + branch.width
    for (const kid of branch.kids) {
      const ends = this.noteEnds(kid, rings.get(branch.id)!.radius, rings)
      inner = Math.min(inner, ends.inner)
      outer = Math.max(outer, ends.outer)
    }
    const ends = { inner, outer }
    this.ends.set(branch.id, ends)
    return ends
  }

  /** The ring of what hangs from a topic. */
  private ringBelow(parent: TopicId, level: number, side: Side): Ring {
    const near = this.near?.[side].get(parent)
    if (near) return near
    const radius = this.rings[level]?.radius ?? 0
    return { radius, rim: radius - this.gap / 2 }
  }

  private onRing(cell: Cell, y: number, { radius }: Ring, side: Side): Spot {
    // The drawing's near edge stands on the ring; the plank is further out when it has a frame of its own.
    const middle = acrossAt(radius, y) + (side === 'right' ? cell.own.left : cell.own.right)
    return { dx: side === 'right' ? middle : -middle, dy: y, direction: side }
  }

  /** From where to where a branch reaches, out from the centre. */
  private endsOf(cell: Cell, y: number, level: number): { readonly inner: number; readonly outer: number } {
    const noted = this.near && this.ends.get(cell.id)
    if (noted) return noted
    // From where its furthest topic up or down would touch its own ring, to its last ring's planks level with the
    // middle.
    const [low, high] = [y + cell.plot.low, y + cell.plot.high]
    const [from, to] = [Math.abs(low), Math.abs(high)]
    const xAt = (at: number, height: number): number => acrossAt(this.rings[at]?.radius ?? 0, height)
    const inner = xAt(level, Math.max(from, to))
    const last = level + cell.widths.length - 1
    const nearest = low < 0 && high > 0 ? 0 : Math.min(from, to)
    let outer = 0
    for (let at = level; at <= last; at++) outer = Math.max(outer, xAt(at, nearest) + cell.widths[at - level]!)
    return { inner, outer }
  }

  private drop(cell: Cell): void {
    this.cells.delete(cell.id)
    for (const kid of cell.kids) this.drop(kid)
  }

  find([first, ...further]: readonly TopicId[]): Placed | null {
    const side = (['right', 'left'] as const).find(one => this.main[one].some(({ id }) => id === first))
    let cell = side && this.main[side].find(({ id }) => id === first)
    if (!side || !cell) return null
    let y = cell.plot.offset
    let above = this.ground.root
    for (const step of further) {
      above = cell.id
      cell = cell.kids.find(({ id }) => id === step)
      if (!cell) return null
      y += cell.plot.offset
    }
    return plankAt(
      cell.id,
      this.ground.size(cell.id),
      this.onRing(cell, y, this.ringBelow(above, further.length, side), side),
    )
  }

  scan(view: Rect, grain: number, onlooker: GroveOnlooker): void {
    for (const side of ['right', 'left'] as const) {
      if (side === 'right' ? view.x + view.width < 0 : view.x > 0) continue
      const ring = this.ringBelow(this.ground.root, 0, side)
      for (const cell of this.main[side]) this.show(view, grain, onlooker, cell, cell.plot.offset, 0, ring, side)
      this.arc(
        view,
        onlooker,
        this.ground.root,
        { dx: 0, dy: 0, direction: side },
        this.ground.size(this.ground.root).width,
        this.main[side],
        0,
        ring,
        side,
      )
    }
  }

  private show(
    view: Rect,
    grain: number,
    onlooker: GroveOnlooker,
    cell: Cell,
    y: number,
    level: number,
    ring: Ring,
    side: Side,
  ): void {
    const { low, high } = cell.plot
    if (y + low > view.y + view.height || y + high < view.y) return
    const { inner, outer } = this.endsOf(cell, y, level)
    const rect = { x: side === 'right' ? inner : -outer, y: y + low, width: outer - inner, height: high - low }
    if (!meets(view, rect)) return
    if (cell.kids.length > 0 && high - low < grain) {
      onlooker.block(rect, cell.id)
      return
    }
    const spot = this.onRing(cell, y, ring, side)
    const { own } = cell
    if (
      meets(view, { x: spot.dx - own.left, y: y - own.top, width: own.left + own.right, height: own.top + own.bottom })
    ) {
      const placed = plankAt(cell.id, this.ground.size(cell.id), spot)
      if (this.ground.isNested(cell.id)) onlooker.frame(placed)
      else onlooker.plank(placed)
    }
    if (cell.kids.length === 0) return
    const below = this.ringBelow(cell.id, level + 1, side)
    for (const kid of cell.kids) this.show(view, grain, onlooker, kid, y + kid.plot.offset, level + 1, below, side)
    this.arc(view, onlooker, cell.id, spot, cell.width, cell.kids, y, below, side)
  }

  /**
   * The bracket: a stub from the parent, an arc as long as from the first to the last child, a tick to each. Just what
   * is in sight.
   */
  private arc(
    view: Rect,
    onlooker: GroveOnlooker,
    parent: TopicId,
    from: Spot,
    width: number,
    kids: readonly Cell[],
    middle: number,
    ring: Ring,
    side: Side,
  ): void {
    if (kids.length === 0) return
    const sign = side === 'right' ? 1 : -1
    const { rim } = ring
    const [above, below] = [view.y - rim * 0.001 - 60, view.y + view.height + rim * 0.001 + 60]
    // Stubs and ticks lie flat: they meet the arc at their own height, as far as it reaches.
    const angleAt = (y: number): number => Math.asin(Math.min(0.999, Math.max(-0.999, y / rim)))
    const onRim = (angle: number): [number, number] => [sign * rim * Math.cos(angle), rim * Math.sin(angle)]
    const heights = [from.dy, middle + kids[0]!.plot.offset, middle + kids.at(-1)!.plot.offset]
    if (Math.min(...heights) > below || Math.max(...heights) < above) return
    for (const kid of kids) {
      const y = middle + kid.plot.offset
      if (y < above || y > below) continue
      const spot = this.onRing(kid, y, ring, side)
      onlooker.line(kid.id, [...onRim(angleAt(y)), spot.dx - (sign * kid.width) / 2, y])
    }
    if (from.dy >= above && from.dy <= below)
      onlooker.line(parent, [from.dx + (sign * width) / 2, from.dy, ...onRim(angleAt(from.dy))])
    const low = angleAt(Math.max(Math.min(...heights), above))
    const high = angleAt(Math.min(Math.max(...heights), below))
    if (high <= low) return
    const steps = Math.max(1, Math.ceil((high - low) / Math.min(0.06, 2 * Math.acos(Math.max(0, 1 - STRAY / rim)))))
    const points: number[] = []
    for (let i = 0; i <= steps; i++) points.push(...onRim(low + ((high - low) * i) / steps))
    onlooker.line(parent, points)
  }
}

const NOWHERE: Extents = { left: 0, right: 0, top: 0, bottom: 0 }
